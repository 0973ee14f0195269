import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { expect, test } from "vitest";
import { address, button, press, refusal, serve, show, type } from "../../testing/page";
import { cellOf, placeOf } from "../../testing/samples";
import PlacePage from "./PlacePage";
import PlacesPage from "./PlacesPage";

const SESSION = {
  person: { name: "Oona", role: "coordinator" },
  csrf_token: "t",
  language: "en",
  is_language_chosen: false,
  languages: ["en"],
  print_language: "en",
};
const TRAY = placeOf({ id: 3, number: "T109", name: "Tray 1", kind: "tray", rows: 2, columns: 5 });
const ALL = {
  "GET /api/places": {
    places: [
      { place: TRAY, cells: 4 },
      { place: placeOf({ capacity: 40 }), cells: 1 },
    ],
  },
  "GET /api/catalogue": { tray_sizes: [{ id: 1, name: "Small, 2 x 5", rows: 2, columns: 5, is_active: true }] },
};

test("every place tells what lies in it of what it takes", async () => {
  serve(ALL);
  show(<PlacesPage />);
  const trays = await screen.findByRole("region", { name: "Tray" });
  expect(within(trays).getByText("4 of 10 cells")).toBeTruthy();
  expect(within(screen.getByRole("region", { name: "Shelf box" })).getByText("1 of 40 cells")).toBeTruthy();
});

test("another box is made with a name and what it takes, and opened", async () => {
  const sent = serve({ ...ALL, "POST /api/places": placeOf({ number: "X125" }) });
  show(<PlacesPage />);
  fireEvent.click(await screen.findByRole("radio", { name: "Shelf box" }));
  type("Name", "Blue box");
  type("Takes how many cells", "40");
  press("Make it");
  await waitFor(() => expect(address()).toBe("/places/X125"));
  expect(sent[0]?.body).toEqual({ kind: "shelf-box", name: "Blue box", rows: null, columns: null, capacity: 40 });
});

test("a tray is made in one of the sizes there are", async () => {
  const sent = serve({ ...ALL, "POST /api/places": TRAY });
  show(<PlacesPage />);
  await screen.findByRole("radio", { name: "Tray" });
  type("Name", "Tray 2");
  press("Make it");
  await waitFor(() => expect(address()).toBe("/trays/T109"));
  expect(sent[0]?.body).toMatchObject({ kind: "tray", rows: 2, columns: 5, capacity: null });
});

test("a name that is taken is said at the name, and what was typed stays", async () => {
  serve({
    ...ALL,
    "POST /api/places": refusal({ code: "bad-input", text: "There is a place called Tray 1 already.", field: "name" }),
  });
  show(<PlacesPage />);
  await screen.findByLabelText("Name");
  type("Name", "Tray 1");
  press("Make it");
  expect(await screen.findByText("There is a place called Tray 1 already.")).toBeTruthy();
  expect((screen.getByLabelText("Name") as HTMLInputElement).value).toBe("Tray 1");
});

test("nothing is made without a name", async () => {
  serve(ALL);
  show(<PlacesPage />);
  await screen.findByLabelText("Name");
  expect((button("Make it") as HTMLButtonElement).disabled).toBe(true);
});

const BOX = {
  "GET /api/session": SESSION,
  "GET /api/places/X117": {
    place: placeOf({ capacity: 40 }),
    cells: [cellOf()],
    last_counted_at: null,
    last_counted_by: null,
    total: 1,
    last_missing: ["1055"],
  },
};
const box = () => show(<PlacePage />, "/places/X117", "/places/:number");

test("a box says what lies in it, what was missing, and that nobody counted it", async () => {
  serve(BOX);
  box();
  expect(await screen.findByText(/Missing at the last count: 1055/)).toBeTruthy();
  expect(screen.getByText("Shelf box X117, 1 of 40 cells, never counted.")).toBeTruthy();
  expect(within(screen.getByRole("region", { name: "What lies in it" })).getByText("Strong")).toBeTruthy();
});

test("a coordinator changes its name as it was seen", async () => {
  const sent = serve({ ...BOX, "PUT /api/places/X117": placeOf({ name: "Green box" }) });
  box();
  await screen.findByLabelText("Name");
  type("Name", "Green box");
  type("Takes how many cells", "");
  press("Change it");
  await waitFor(() => expect(sent).toHaveLength(1));
  expect(sent[0]?.body).toEqual({ seen_version: 1, name: "Green box", capacity: null });
});

test("a name that is typed stays where somebody else was faster, who is told of once", async () => {
  const faster = refusal({ code: "changed-meanwhile", text: "Somebody else changed it." });
  const answers = [faster, placeOf({ name: "Green box" })];
  const sent = serve({ ...BOX, "PUT /api/places/X117": () => answers.shift() });
  box();
  await screen.findByLabelText("Name");
  type("Name", "Green box");
  serve({
    "GET /api/places/X117": { ...BOX["GET /api/places/X117"], place: placeOf({ name: "Red box", version: 2 }) },
  });
  press("Change it");
  await screen.findByText("Somebody else changed it.");
  expect(await screen.findByRole("heading", { name: "Red box" })).toBeTruthy();
  press("Change it");
  await waitFor(() =>
    expect(sent.map((each) => each.body)).toMatchObject([
      { seen_version: 1, name: "Green box" },
      { seen_version: 2, name: "Green box" },
    ]),
  );
});

test("what is no number is told before it is sent", async () => {
  serve(BOX);
  box();
  await screen.findByLabelText("Takes how many cells");
  type("Takes how many cells", "many");
  expect(screen.getByText("A plain number, e.g. 40.")).toBeTruthy();
  expect((button("Change it") as HTMLButtonElement).disabled).toBe(true);
});

test("a volunteer is not asked to change it", async () => {
  serve({ ...BOX, "GET /api/session": { ...SESSION, person: { name: "Tamsin", role: "volunteer" } } });
  box();
  await screen.findByText(/Missing at the last count/);
  expect(screen.queryByRole("button", { name: "Change it" })).toBeNull();
});
