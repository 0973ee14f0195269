import { Suspense, useEffect } from "react";
import { Route, Routes } from "react-router";
import { useChanges } from "./api/live";
import { useSession } from "./api/queries";
import { Frame } from "./components/Frame";
import { Page, Waiting } from "./components/Page";
import { Fetched, fetchBench, PAGES, PUBLIC, WALL } from "./pages/byAddress";
import { Guarded } from "./pages/Guarded";
import { HomePage } from "./pages/Home/HomePage";
import { SignInPage } from "./pages/SignIn/SignInPage";
import { WelcomePage } from "./pages/SignIn/WelcomePage";

// Home comes with the first load; the bench once that has settled, as it has to work without the server; the rest when
// somebody goes there.
const SETTLED_MS = 4_000;

export function App() {
  return (
    <Routes>
      <Route path="/welcome/:token" element={<WelcomePage />} />
      <Route
        path={PUBLIC.path}
        element={
          <Suspense>
            <Guarded isToLookAt>
              <Fetched page={PUBLIC} />
            </Guarded>
          </Suspense>
        }
      />
      <Route path="/*" element={<SignedInPages />} />
    </Routes>
  );
}

function SignedInPages() {
  const session = useSession();
  const isIn = Boolean(session.data?.person);
  useChanges(isIn);
  useEffect(() => {
    if (!isIn) return;
    // Where it cannot be fetched now it is fetched, and any trouble told, when somebody goes there.
    const load = () => void fetchBench();
    let timer = setTimeout(load, SETTLED_MS);
    // Not while somebody types or scans: what is sent goes first.
    const wait = () => {
      clearTimeout(timer);
      timer = setTimeout(load, SETTLED_MS);
    };
    window.addEventListener("keydown", wait, { capture: true });
    window.addEventListener("pointerdown", wait, { capture: true });
    return () => {
      clearTimeout(timer);
      window.removeEventListener("keydown", wait, { capture: true });
      window.removeEventListener("pointerdown", wait, { capture: true });
    };
  }, [isIn]);
  if (!session.data) return <Waiting query={session} what="Zembric" />;
  if (!session.data.person) return <SignInPage />;
  return (
    <Routes>
      <Route
        path={WALL.path}
        element={
          <Suspense>
            <Guarded isToLookAt>
              <Fetched page={WALL} />
            </Guarded>
          </Suspense>
        }
      />
      <Route element={<Frame />}>
        <Route element={<Guarded />}>
          <Route index element={<HomePage />} />
          {PAGES.map((page) => (
            <Route key={page.path} path={page.path} element={<Fetched key={page.path} page={page} />} />
          ))}
          <Route
            path="*"
            element={
              <Page title="Nothing here">
                There is no page at this address. The bar with Now, Open and Bench leads on.
              </Page>
            }
          />
        </Route>
      </Route>
    </Routes>
  );
}
