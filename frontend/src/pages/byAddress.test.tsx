import { screen } from "@testing-library/react";
import { Suspense } from "react";
import { afterEach, beforeEach, expect, test } from "vitest";
import { beginAfresh, show, tidyUp } from "../testing/page";
import { Fetched, fetchPageAt, PAGES } from "./byAddress";

beforeEach(beginAfresh);
afterEach(tidyUp);

function pageAt(path: string) {
  const page = PAGES.find((each) => each.path === path);
  if (!page) throw new Error(`no page at ${path}`);
  return page;
}

function placeOf(path: string) {
  return (
    <Suspense fallback="One moment">
      <Fetched page={pageAt(path)} />
    </Suspense>
  );
}

test("a page that was fetched is shown at once, without its place ever being empty", async () => {
  await pageAt("more").fetch();
  show(placeOf("more"));
  expect(screen.queryByText("One moment")).toBeNull();
  expect(screen.getByRole("heading", { level: 1 })).toBeDefined();
});

test("a page that is not here yet is shown when it comes", async () => {
  show(placeOf("parts"));
  expect(screen.getByText("One moment")).toBeDefined();
  expect(await screen.findByRole("heading", { level: 1 })).toBeDefined();
});

test("an address without a page of its own waits for none", async () => {
  await expect(fetchPageAt("/nowhere")).resolves.toBeUndefined();
});
