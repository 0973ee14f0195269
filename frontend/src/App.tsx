import { lazy, Suspense, useEffect } from "react";
import { Route, Routes } from "react-router";
import { useChanges } from "./api/live";
import { useSession } from "./api/queries";
import { Frame } from "./components/Frame";
import { Page, Waiting } from "./components/Page";
import { HomePage } from "./pages/Home/HomePage";
import { SignInPage } from "./pages/SignIn/SignInPage";
import { WelcomePage } from "./pages/SignIn/WelcomePage";

// Home comes with the first load; the bench once that has settled, as it has to work without the server; the rest when
// somebody goes there.
const SETTLED_MS = 4_000;
const toBench = () => import("./pages/Bench/BenchPage");
const BenchPage = lazy(toBench);
const OpenDonorPage = lazy(() => import("./pages/OpenDonor/OpenDonorPage"));
const DonorsPage = lazy(() => import("./pages/OpenDonor/DonorsPage"));
const FindPage = lazy(() => import("./pages/Find/FindPage"));
const DonorPage = lazy(() => import("./pages/OpenDonor/DonorPage"));
const CellPage = lazy(() => import("./pages/Cell/CellPage"));
const ShelfPage = lazy(() => import("./pages/Shelf/ShelfPage"));
const MatchPage = lazy(() => import("./pages/Match/MatchPage"));
const PacksPage = lazy(() => import("./pages/Packs/PacksPage"));
const PackPage = lazy(() => import("./pages/Packs/PackPage"));
const PickPage = lazy(() => import("./pages/Packs/PickPage"));
const LayoutPage = lazy(() => import("./pages/Packs/Layout/LayoutPage"));
const BuildPage = lazy(async () => ({ default: (await import("./pages/Packs/Steps/StepsPage")).BuildPage }));
const ProvePage = lazy(async () => ({ default: (await import("./pages/Packs/Steps/StepsPage")).ProvePage }));
const RecallsPage = lazy(() => import("./pages/Packs/Outside/RecallsPage"));
const TakeInPage = lazy(() => import("./pages/Packs/Outside/TakeInPage"));
const PublicPage = lazy(() => import("./pages/Public/PublicPage"));
const MeasurePage = lazy(() => import("./pages/Packs/Joining/MeasurePage"));
const RecellPage = lazy(() => import("./pages/Recell/RecellPage"));
const TrayPage = lazy(() => import("./pages/Trays/TrayPage"));
const PlacesPage = lazy(() => import("./pages/Places/PlacesPage"));
const PlacePage = lazy(() => import("./pages/Places/PlacePage"));
const LabelsPage = lazy(() => import("./pages/Papers/LabelsPage"));
const ListsPage = lazy(() => import("./pages/Papers/ListsPage"));
const MePage = lazy(() => import("./pages/SignIn/MePage"));
const MorePage = lazy(() => import("./pages/House/MorePage"));
const PartsPage = lazy(() => import("./pages/House/PartsPage"));
const CataloguePage = lazy(() => import("./pages/House/CataloguePage"));
const RulesPage = lazy(() => import("./pages/House/Rules/RulesPage"));
const ComparePage = lazy(() => import("./pages/Shelf/ComparePage"));
const PracticePage = lazy(() => import("./pages/House/PracticePage"));
const BroughtPage = lazy(() => import("./pages/House/BroughtPage"));
const SumsPage = lazy(() => import("./pages/Sums/SumsPage"));
const LogsPage = lazy(() => import("./pages/Logs/LogsPage"));
const LogPage = lazy(() => import("./pages/Logs/LogPage"));
const InstrumentsPage = lazy(() => import("./pages/Instruments/InstrumentsPage"));
const TablePage = lazy(() => import("./pages/Table/TablePage"));
const SlotPage = lazy(() => import("./pages/Table/SlotPage"));
const EveningPage = lazy(() => import("./pages/Evening/EveningPage"));
const WallPage = lazy(() => import("./pages/Table/WallPage"));
const TestersPage = lazy(() => import("./pages/Testers/TestersPage"));
const OutBoxPage = lazy(() => import("./pages/OutBox/OutBoxPage"));

export function App() {
  return (
    <Routes>
      <Route path="/welcome/:token" element={<WelcomePage />} />
      <Route
        path="/p/:token"
        element={
          <Suspense>
            <PublicPage />
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
    const load = () => void toBench().catch(() => undefined);
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
        path="wall"
        element={
          <Suspense>
            <WallPage />
          </Suspense>
        }
      />
      <Route element={<Frame />}>
        <Route index element={<HomePage />} />
        <Route path="open" element={<OpenDonorPage />} />
        <Route path="find" element={<FindPage />} />
        <Route path="donors" element={<DonorsPage />} />
        <Route path="donors/:number" element={<DonorPage />} />
        <Route path="bench/:number?" element={<BenchPage />} />
        <Route path="cells/:number" element={<CellPage />} />
        <Route path="shelf" element={<ShelfPage />} />
        <Route path="compare" element={<ComparePage />} />
        <Route path="match" element={<MatchPage />} />
        <Route path="packs" element={<PacksPage />} />
        <Route path="packs/take-in" element={<TakeInPage />} />
        <Route path="packs/:number" element={<PackPage />} />
        <Route path="packs/:number/pick" element={<PickPage />} />
        <Route path="packs/:number/layout" element={<LayoutPage />} />
        <Route path="packs/:number/build" element={<BuildPage />} />
        <Route path="packs/:number/prove" element={<ProvePage />} />
        <Route path="packs/:number/measure" element={<MeasurePage />} />
        <Route path="me" element={<MePage />} />
        <Route path="recell" element={<RecellPage />} />
        <Route path="trays/:number" element={<TrayPage />} />
        <Route path="places" element={<PlacesPage />} />
        <Route path="places/:number" element={<PlacePage />} />
        <Route path="labels" element={<LabelsPage />} />
        <Route path="lists" element={<ListsPage />} />
        <Route path="more" element={<MorePage />} />
        <Route path="parts" element={<PartsPage />} />
        <Route path="catalogue" element={<CataloguePage />} />
        <Route path="practice" element={<PracticePage />} />
        <Route path="brought" element={<BroughtPage />} />
        <Route path="rules" element={<RulesPage />} />
        <Route path="sums/:name?" element={<SumsPage />} />
        <Route path="logs" element={<LogsPage />} />
        <Route path="logs/:id" element={<LogPage />} />
        <Route path="instruments" element={<InstrumentsPage />} />
        <Route path="recalls" element={<RecallsPage />} />
        <Route path="table" element={<TablePage />} />
        <Route path="table/:number" element={<SlotPage />} />
        <Route path="evening" element={<EveningPage />} />
        <Route path="testers" element={<TestersPage />} />
        <Route path="out-box" element={<OutBoxPage />} />
        <Route
          path="*"
          element={<Page title="Nothing here">There is no page at this address. The bar above leads on.</Page>}
        />
      </Route>
    </Routes>
  );
}
