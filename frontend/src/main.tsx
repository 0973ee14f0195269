import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { ErrorBoundary } from "react-error-boundary";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { queryClient, sessionQuery } from "./api/queries";
import { speak } from "./catalogue";
import { fetchPageAt, NotFetched } from "./pages/byAddress";
import { Broken } from "./pages/Guarded";
import { ThemeChoice } from "./theme/ThemeChoice";

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root");
const page = createRoot(root, {
  // What could not be fetched is told on the page; it is no fault of the program.
  onCaughtError: (error) => {
    if (!(error instanceof NotFetched)) console.error(error);
  },
});
// Asked for at once, not one after the other: who it is, the page at this address, and the words of the language that the
// server wrote into the page.
void queryClient.prefetchQuery(sessionQuery);
void Promise.all([speak(document.documentElement.lang), fetchPageAt(location.pathname)]).then(() =>
  page.render(
    <StrictMode>
      <ThemeChoice>
        <QueryClientProvider client={queryClient}>
          <ErrorBoundary FallbackComponent={Broken}>
            <BrowserRouter>
              <App />
            </BrowserRouter>
          </ErrorBoundary>
        </QueryClientProvider>
      </ThemeChoice>
    </StrictMode>,
  ),
);
