import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { queryClient } from "./api/queries";
import { speak } from "./catalogue";
import { ThemeChoice } from "./theme/ThemeChoice";

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no #root");
const page = createRoot(root);
// The server wrote into the page what it tells this person in.
void speak(document.documentElement.lang).then(() =>
  page.render(
    <StrictMode>
      <ThemeChoice>
        <QueryClientProvider client={queryClient}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </ThemeChoice>
    </StrictMode>,
  ),
);
