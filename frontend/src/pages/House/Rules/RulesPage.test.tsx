import { act, fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, expect, test } from "vitest";
import { queryClient } from "../../../api/queries";
import { press, refusal, serve, show, type } from "../../../testing/page";
import RulesPage from "./RulesPage";

const BANDS = [
  { band: "recycle", from_v: 0, marks: false },
  { band: "recovery", from_v: 2, marks: true },
  { band: "go-on", from_v: 2.5, marks: false },
];
const school = (code: string) => ({
  code,
  text: `${code} means so`,
  why: `why ${code}`,
  families: [{ family: "layered-oxide", bands: BANDS }],
});
const version = {
  version: 1,
  voltage_school: "usual",
  grade_school: "health",
  by: null,
  at: "2026-11-01T10:00:00Z",
  why: "As it comes.",
  differences: [],
};
const RULES = {
  changed: null,
  special: [],
  versions: [version],
  voltage_schools: ["strict", "usual", "thrifty"].map(school),
  grade_schools: ["health", "bins", "fitness"].map((code) => ({ code, text: `${code} means so` })),
  limits: [
    {
      key: "sibling_gap_v",
      meaning: "Gap to siblings",
      group: "First voltage",
      unit: "V",
      value: 0.2,
      usual: 0.2,
      is_fixed: false,
      kind: "house",
    },
    {
      key: "hot_degc",
      meaning: "Hot from",
      group: "First voltage",
      unit: "°C",
      value: 45,
      usual: 45,
      is_fixed: true,
      kind: "house",
    },
  ],
  switches: [
    {
      key: "marked",
      question: "Marked cells?",
      chosen: "never",
      choices: [
        { code: "never", text: "Never in packs", why: "Nobody knows." },
        { code: "asked", text: "When asked", why: "They may do." },
      ],
    },
  ],
};
const who = (role: string) => ({
  "GET /api/session": {
    person: { name: "Oona", role },
    csrf_token: "t",
    language: "en",
    is_language_chosen: false,
    languages: ["en"],
    print_language: "en",
  },
});
const PREVIEW = {
  cells: 12,
  changed: 1,
  moves: [{ before: "A", after: "B", cells: 1 }],
  first: [{ number: "1042", before: "A", after: "B", reason: "It lies below." }],
};

beforeEach(() => {
  serve({ "GET /api/rules": RULES, ...who("coordinator") });
});

test("each school says what it means and why, and which holds here", async () => {
  show(<RulesPage />);
  expect(await screen.findByText("Usual (holds here)")).toBeTruthy();
  expect(screen.getByText("why strict")).toBeTruthy();
  expect(screen.getAllByText("recover slowly, marked for life").length).toBe(3);
});

test("other rules are looked at before they hold, and hold with a ground", async () => {
  const sent = serve({ "POST /api/rules/preview": PREVIEW, "PUT /api/rules": { ...RULES, changed: 1 } });
  show(<RulesPage />);
  fireEvent.click(await screen.findByRole("radio", { name: "Thrifty" }));
  press("See what it would change");
  expect(await screen.findByText("1 of 12 cells would get another grade.")).toBeTruthy();
  type("Why", "we save what we can");
  press("Set, and judge every cell anew");
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[1]?.body).toMatchObject({ voltage_school: "thrifty", seen_version: 1, why: "we save what we can" });
});

test("rules that another one set meanwhile are told of and looked at before they are set aside", async () => {
  const answers = [
    refusal({ code: "changed-meanwhile", text: "Somebody else changed them." }),
    { ...RULES, changed: 1 },
  ];
  const sent = serve({ "POST /api/rules/preview": PREVIEW, "PUT /api/rules": () => answers.shift() });
  show(<RulesPage />);
  fireEvent.click(await screen.findByRole("radio", { name: "Thrifty" }));
  press("See what it would change");
  await screen.findByText("1 of 12 cells would get another grade.");
  type("Why", "we save what we can");
  const theirs = { ...RULES, versions: [{ ...RULES.versions[0], version: 2 }, ...RULES.versions] };
  serve({ "GET /api/rules": theirs });
  await act(() => queryClient.refetchQueries({ queryKey: ["rules"] }));
  press("Set, and judge every cell anew");
  await screen.findByText("Somebody else changed them.");
  press("See what it would change");
  await screen.findByText("1 of 12 cells would get another grade.");
  press("Set, and judge every cell anew");
  await waitFor(() => expect(sent.filter(({ method }) => method === "PUT")).toHaveLength(2));
  expect(sent.filter(({ method }) => method === "PUT").map(({ body }) => body)).toMatchObject([
    { seen_version: 1 },
    { seen_version: 2, voltage_school: "thrifty", why: "we save what we can" },
  ]);
});

test("a value of the house is sent, one that was emptied is as usual", async () => {
  const sent = serve({ "POST /api/rules/preview": { ...PREVIEW, changed: 0, moves: [], first: [] } });
  show(<RulesPage />);
  fireEvent.click(await screen.findByRole("button", { name: /First voltage/ }));
  fireEvent.change(await screen.findByLabelText("Gap to siblings", { selector: "input[inputmode]" }), {
    target: { value: "0.3" },
  });
  press("See what it would change");
  await waitFor(() => expect(sent[0]?.body).toMatchObject({ values: { sibling_gap_v: "0.3" } }));
  expect(await screen.findByText("None of 12 cells would get another grade.")).toBeTruthy();
});

test("a value that cannot be stands at its field, which opens for it", async () => {
  serve({ "POST /api/rules/preview": refusal({ code: "bad-input", text: "9 cannot be.", field: "sibling_gap_v" }) });
  show(<RulesPage />);
  fireEvent.click(await screen.findByRole("radio", { name: "By volume" }));
  press("See what it would change");
  expect((await screen.findAllByText("9 cannot be.")).length).toBeGreaterThan(0);
});

test("what protects people is the same in every house", async () => {
  show(<RulesPage />);
  fireEvent.click(await screen.findByRole("button", { name: /First voltage/ }));
  expect(screen.getByText(/the same in every house: it protects people/)).toBeTruthy();
  expect(screen.queryByLabelText("Hot from")).toBeNull();
});

test("what was thought about can be left", async () => {
  serve({ "POST /api/rules/preview": PREVIEW });
  show(<RulesPage />);
  fireEvent.click(await screen.findByRole("radio", { name: "When asked" }));
  press("See what it would change");
  fireEvent.click(await screen.findByRole("button", { name: "Leave it as it was" }));
  expect(screen.getByRole("button", { name: "Nothing changed" })).toBeTruthy();
});

test("a volunteer reads them", async () => {
  serve(who("volunteer"));
  show(<RulesPage />);
  expect(await screen.findByText("A coordinator sets the house rules.")).toBeTruthy();
  expect(screen.queryByRole("radio")).toBeNull();
});
