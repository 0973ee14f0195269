import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import type { Plugin } from "vite";

const SOURCES = join(import.meta.dirname, "src");
const NAMED = /\bnamed\(\s*"([\w-]+)"/g;

/** Gives `words/LANGUAGE.ftl?pages` as a text: of the catalogue what pages name, so that the first page stays light. */
export function pageWords(): Plugin {
  return {
    name: "page-words",
    enforce: "pre",
    load(id) {
      const [file, query] = id.split("?");
      if (!file?.endsWith(".ftl") || query !== "pages") return null;
      const kinds = kindsOfPages();
      const lines = readFileSync(file, "utf-8").split("\n");
      const used = lines.filter((line) => kinds.some((kind) => line.startsWith(`${kind}-`)));
      return `export default ${JSON.stringify(used.join("\n"))};`;
    },
  };
}

/** The kinds of code that pages ask names for, as their sources say. */
function kindsOfPages(): string[] {
  const sources = readdirSync(SOURCES, { recursive: true, encoding: "utf-8" }).filter((name) => /\.tsx?$/.test(name));
  const texts = sources.map((name) => readFileSync(join(SOURCES, name), "utf-8"));
  return [...new Set(texts.flatMap((text) => [...text.matchAll(NAMED)].map((found) => found[1] ?? "")))];
}
