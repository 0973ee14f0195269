import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { press, refusal, serve, show, type } from "../../testing/page";
import LabelsPage from "./LabelsPage";

const LAYOUT = {
  key: "a4-24", name: "A4, 24 labels", paper: "sheet", columns: 3, rows: 8, labels_per_page: 24, label_width_mm: 70, label_height_mm: 36,
}; // biome-ignore format: a sheet
const PRINTS = { layouts: [LAYOUT], unlabelled: [], prints: [] };

test("a second label needs its reason, asked for where the first was refused", async () => {
  let isFirst = true;
  const again = refusal({ code: "reason-needed", text: "1007 had a label before.", field: "why" });
  const sent = serve({
    "GET /api/prints": PRINTS,
    "POST /api/prints": () => {
      const answer = isFirst ? again : { id: 2, numbers: ["1007"] };
      isFirst = false;
      return answer;
    },
  });
  show(<LabelsPage />, "/labels?cells=1007");
  await screen.findByText("On the paper");
  press("Make 1 label");
  expect(await screen.findByText("1007 had a label before.")).toBeTruthy();
  type("Why again?", "torn off");
  press("Make 1 label");
  expect(await screen.findByText("Open the PDF")).toBeTruthy();
  await waitFor(() =>
    expect(sent.map((each) => (each.body as { why: string | null }).why)).toEqual([null, "torn off"]),
  );
});
