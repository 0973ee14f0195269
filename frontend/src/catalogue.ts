import { FluentBundle, FluentResource } from "@fluent/bundle";
import english from "../../words/en.ftl?pages";

/**
 * What pages call the codes of the house, out of the same catalogue that the server speaks from: of each language the part
 * that pages use, made by the build. English comes with the first page, another one is fetched when somebody reads it.
 */
const others = import.meta.glob<string>(["../../words/*.ftl", "!../../words/en.ftl"], {
  query: "?pages",
  import: "default",
});

let bundle = read("en", english);
let language = "en";

/** Speaks this language from now on, as far as there is one; before anything is drawn. */
export async function speak(next: string): Promise<void> {
  const load = others[`../../words/${next}.ftl`];
  if (!load) return;
  bundle = read(next, await load());
  language = next;
}

/** How numbers, days and times are set: as the browser is used to, where that is the language that is spoken. */
export const locale = (): string | undefined => (navigator.language.startsWith(language) ? undefined : language);

/** The name of a code, e.g. `word("grade-A")`; a code without words is a fault of ours, and shows as itself. */
export function word(id: string): string {
  const pattern = bundle.getMessage(id)?.value;
  return pattern ? bundle.formatPattern(pattern) : id;
}

/** A table of names: read when they are asked for, so that it tells them in the language that is spoken then. */
export function named<Code extends string>(kind: string, codes: readonly Code[]): Readonly<Record<Code, string>> {
  const names = {} as Record<Code, string>;
  for (const code of codes) {
    const id = `${kind}-${code.replaceAll(" ", "-")}`;
    Object.defineProperty(names, code, { enumerable: true, get: () => word(id) });
  }
  return names;
}

function read(of: string, catalogue: string): FluentBundle {
  const made = new FluentBundle(of, { useIsolating: false });
  made.addResource(new FluentResource(catalogue));
  return made;
}
