import { QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { IDBFactory } from "fake-indexeddb";
import type { ReactElement } from "react";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { vi } from "vitest";
import { queryClient } from "../api/queries";
import { close } from "../offline/database";
import { ThemeChoice } from "../theme/ThemeChoice";

/** One request as the page sent it. */
export type Sent = { method: string; path: string; body: unknown; key: string | null };
type Answers = Record<string, unknown>;
type Problem = { code: string; text: string; field?: string | null; suggestion?: string | null };

class Refusal {
  constructor(readonly problem: Problem) {}
}

/** What the server says no with. */
export const refusal = (problem: Problem) => new Refusal(problem);

let answers: Answers = {};
let sent: Sent[] = [];

/** Before each test: nothing kept, and a server that answers only what it is told to. */
export function beginAfresh(): void {
  [answers, sent] = [{}, []];
  localStorage.clear();
  queryClient.clear();
  vi.stubGlobal("indexedDB", new IDBFactory());
  void close();
  vi.stubGlobal("fetch", async (request: Request | string, init?: RequestInit) => {
    const asked = request instanceof Request ? request : new Request(new URL(request, "http://bench"), init);
    const { pathname, search } = new URL(asked.url);
    const text = asked.method === "GET" ? "" : await asked.clone().text();
    const known = answers[`${asked.method} ${pathname}${search}`] ?? answers[`${asked.method} ${pathname}`];
    if (asked.method !== "GET")
      sent.push({
        method: asked.method,
        path: pathname,
        body: text && JSON.parse(text),
        key: asked.headers.get("Idempotency-Key"),
      });
    if (known === undefined) throw new Error(`nobody answers ${asked.method} ${pathname}${search}`);
    const found = typeof known === "function" ? known() : known;
    const isRefused = found instanceof Refusal;
    const body = isRefused ? { field: null, suggestion: null, ways: [], ...found.problem } : found;
    return new Response(JSON.stringify(body), {
      status: isRefused ? 422 : 200,
      headers: { "Content-Type": "application/json" },
    });
  });
}

/** After each test. */
export function tidyUp(): void {
  cleanup();
  vi.unstubAllGlobals();
}

/** A server that answers so, by "POST /api/places"; what is sent to it is told. A function is asked at each request. */
export function serve(more: Answers): Sent[] {
  answers = { ...answers, ...more };
  return sent;
}

/** A page or a part of one at an address, as it stands in the app. */
export function show(what: ReactElement, at = "/", route = "*") {
  const onPage = (shown: ReactElement) => (
    <ThemeChoice>
      <QueryClientProvider client={queryClient}>
        <MemoryRouter initialEntries={[at]}>
          <Routes>
            <Route path={route} element={shown} />
            <Route path="*" element={null} />
          </Routes>
          <Where />
        </MemoryRouter>
      </QueryClientProvider>
    </ThemeChoice>
  );
  const page = render(onPage(what));
  /** The same with what has come in since. */
  return { ...page, showAgain: (next: ReactElement) => page.rerender(onPage(next)) };
}

function Where() {
  const { pathname, search } = useLocation();
  return <output data-testid="address">{pathname + search}</output>;
}

/** Where the page has led to. */
export const address = () => screen.getByTestId("address").textContent;
export const type = (label: string | RegExp, text: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
export const button = (name: string | RegExp) => screen.getByRole("button", { name });
export const press = (name: string | RegExp) => fireEvent.click(button(name));
export const pressEnter = (label: string | RegExp) => {
  const field = screen.getByLabelText(label);
  fireEvent.keyDown(field, { key: "Enter" });
  const form = field.closest("form");
  if (form) fireEvent.submit(form);
};
