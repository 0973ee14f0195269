import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, expect, test } from "vitest";
import { address, button, press, refusal, serve, show, type } from "../../testing/page";
import OpenDonorPage from "./OpenDonorPage";

const KIND = {
  code: "laptop",
  name: "Laptop pack",
  cells_least: 4,
  cells_most: 9,
  usual_size: "18650",
  usual_family: "layered-oxide",
  drain: "low",
  protection: "pack board",
  judged_as: "laptop",
  cautions: [],
  traps: [],
  version: 1,
  sizes: "18650",
  is_active: true,
  how_to_open: "Along the seam.",
  expect: [],
};
const CATALOGUE = {
  donor_kinds: [KIND],
  chemistries: [],
  formats: [],
  models: [],
  tray_sizes: [{ id: 1, name: "Usual, 4 x 5", rows: 4, columns: 5, is_active: true }],
  turned_away: [{ code: "e-bike", name: "Electric bicycle", instead: "Its maker takes it back." }],
};
const SIZE = {
  code: "18650",
  readings: [],
  ambiguous: false,
  family: null,
  rechargeable: null,
  remarks: [],
  usual: null,
  suspicion: null,
  claim: null,
};
const value = (label: string) => (screen.getByLabelText(label) as HTMLInputElement).value;

beforeEach(() => {
  serve({ "GET /api/catalogue": CATALOGUE, "GET /api/donors": { donors: [], count: 0 }, "GET /api/size": SIZE });
});

test("a device becomes so many numbered cells, with what is known of them", async () => {
  const sent = serve({ "POST /api/donors": { number: "D104" } });
  show(<OpenDonorPage />, "/open");
  fireEvent.change(await screen.findByLabelText("In your words"), { target: { value: "school laptop" } });
  type("Rated, from a data sheet", "2600");
  press("Number these 4 cells");
  await waitFor(() => expect(address()).toBe("/donors/D104"));
  expect(sent[0]?.body).toMatchObject({
    kind: "laptop",
    description: "school laptop",
    cells: 4,
    size_code: "18650",
    family: "layered-oxide",
    rated_capacity_mah: 2600,
    claimed_capacity_mah: null,
    full_v: null,
    parallel: null,
    confirmed: false,
  });
});

test("a slip keeps everything that was typed, stands at its field, and is said where the button is", async () => {
  serve({ "POST /api/donors": refusal({ code: "bad-input", text: "No size is written so.", field: "size_code" }) });
  show(<OpenDonorPage />, "/open");
  fireEvent.change(await screen.findByLabelText("In your words"), { target: { value: "school laptop" } });
  type("Size", "1865");
  press("Number these 4 cells");
  expect(await screen.findByText("No size is written so.")).toBeTruthy();
  expect(screen.getByText("Nothing was numbered yet: the size was refused.")).toBeTruthy();
  expect([value("In your words"), value("Size")]).toEqual(["school laptop", "1865"]);
});

test("a rated value that hardly can be is asked about once, and then meant", async () => {
  const answers: unknown[] = [
    refusal({
      code: "odd-input",
      text: "3600 mAh rated is more than such a cell usually holds.",
      field: "rated_capacity_mah",
    }),
    { number: "D104" },
  ];
  const sent = serve({ "POST /api/donors": () => answers.shift() });
  show(<OpenDonorPage />, "/open");
  await screen.findByLabelText("In your words");
  type("Rated, from a data sheet", "3600");
  press("Number these 4 cells");
  fireEvent.click(await screen.findByRole("button", { name: "The sheet says so: number these 4 cells" }));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]?.body).toMatchObject({ confirmed: true });
});

test("what is no plain number holds the button, and says so", async () => {
  show(<OpenDonorPage />, "/open");
  await screen.findByLabelText("In your words");
  type("Claimed on the cell", "lots");
  expect(screen.getByText("First mend what is no plain number.")).toBeTruthy();
  expect((button("Number these 4 cells") as HTMLButtonElement).disabled).toBe(true);
});

test("a device that is not opened at this table says where it goes instead", async () => {
  show(<OpenDonorPage />, "/open");
  fireEvent.click(await screen.findByRole("radio", { name: "Electric bicycle" }));
  expect(screen.getByText("Electric bicycle: not for this table")).toBeTruthy();
  expect(screen.queryByLabelText("In your words")).toBeNull();
});
