import { type ComponentType, lazy, useState } from "react";
import { matchPath } from "react-router";

/** A page with a file of its own, fetched when somebody goes there or before. */
interface FetchedPage {
  path: string;
  fetch: () => Promise<unknown>;
  /** What shows it: itself once it is here, else what fetches it first. */
  shown: () => ComponentType;
  /** Forgets that it could not be fetched. */
  again: () => void;
}

/** The file of a page did not come. */
export class NotFetched extends Error {}

function page(path: string, load: () => Promise<{ default: ComponentType }>): FetchedPage {
  let here: ComponentType | undefined;
  const fetch = async () => {
    const file = await load().catch((cause: unknown) => {
      throw new NotFetched(path, { cause });
    });
    here = file.default;
    return file;
  };
  let later = lazy(fetch);
  const again = () => {
    later = lazy(fetch);
  };
  return { path, fetch, shown: () => here ?? later, again };
}

/** What comes after its place was shown empty React shows a third of a second late; what is here it shows at once. */
export function Fetched({ page }: { page: FetchedPage }) {
  const [Shown] = useState(page.shown);
  return <Shown />;
}

/** All pages in the frame besides the first one, which comes with the frame. */
export const PAGES = [
  page("open", () => import("./OpenDonor/OpenDonorPage")),
  page("find", () => import("./Find/FindPage")),
  page("donors", () => import("./OpenDonor/DonorsPage")),
  page("donors/:number", () => import("./OpenDonor/DonorPage")),
  page("bench/:number?", () => import("./Bench/BenchPage")),
  page("cells/:number", () => import("./Cell/CellPage")),
  page("shelf", () => import("./Shelf/ShelfPage")),
  page("compare", () => import("./Shelf/ComparePage")),
  page("match", () => import("./Match/MatchPage")),
  page("packs", () => import("./Packs/PacksPage")),
  page("packs/take-in", () => import("./Packs/Outside/TakeInPage")),
  page("packs/:number", () => import("./Packs/PackPage")),
  page("packs/:number/pick", () => import("./Packs/PickPage")),
  page("packs/:number/layout", () => import("./Packs/Layout/LayoutPage")),
  page("packs/:number/build", async () => ({ default: (await import("./Packs/Steps/StepsPage")).BuildPage })),
  page("packs/:number/prove", async () => ({ default: (await import("./Packs/Steps/StepsPage")).ProvePage })),
  page("packs/:number/measure", () => import("./Packs/Joining/MeasurePage")),
  page("me", () => import("./SignIn/MePage")),
  page("recell", () => import("./Recell/RecellPage")),
  page("trays/:number", () => import("./Trays/TrayPage")),
  page("places", () => import("./Places/PlacesPage")),
  page("places/:number", () => import("./Places/PlacePage")),
  page("labels", () => import("./Papers/LabelsPage")),
  page("lists", () => import("./Papers/ListsPage")),
  page("more", () => import("./House/MorePage")),
  page("parts", () => import("./House/PartsPage")),
  page("catalogue", () => import("./House/CataloguePage")),
  page("practice", () => import("./House/PracticePage")),
  page("brought", () => import("./House/BroughtPage")),
  page("rules", () => import("./House/Rules/RulesPage")),
  page("sums/:name?", () => import("./Sums/SumsPage")),
  page("logs", () => import("./Logs/LogsPage")),
  page("logs/:id", () => import("./Logs/LogPage")),
  page("instruments", () => import("./Instruments/InstrumentsPage")),
  page("recalls", () => import("./Packs/Outside/RecallsPage")),
  page("table", () => import("./Table/TablePage")),
  page("table/:number", () => import("./Table/SlotPage")),
  page("evening", () => import("./Evening/EveningPage")),
  page("testers", () => import("./Testers/TestersPage")),
  page("out-box", () => import("./OutBox/OutBoxPage")),
];
export const WALL = page("wall", () => import("./Table/WallPage"));
export const PUBLIC = page("p/:token", () => import("./Public/PublicPage"));

/** What could not be fetched is asked for once more when somebody goes there. */
export function fetchAgain(): void {
  for (const each of [...PAGES, WALL, PUBLIC]) each.again();
}

const HERE_WITHIN_MS = 300;

/** Fetches the page at an address, and waits for it a moment; where it cannot be had that is told when it is shown. */
export function fetchPageAt(address: string): Promise<unknown> {
  const found = [...PAGES, WALL, PUBLIC].find(({ path }) => matchPath(path, address));
  if (!found) return Promise.resolve();
  const late = new Promise((resolve) => setTimeout(resolve, HERE_WITHIN_MS));
  return Promise.race([found.fetch().catch(() => undefined), late]);
}

/** Works without the server too, once it was fetched. */
export const fetchBench = () => fetchPageAt("/bench");
