import { describe, expect, it } from "vitest";

const SOURCES = import.meta.glob<string>("./**/*.{ts,tsx}", {
  query: "?raw",
  import: "default",
  eager: true,
});

type Graph = Map<string, Set<string>>;

const isTest = (file: string) => file.includes(".test.") || file.startsWith("./testing/");

function imported(from: string, path: string): string | undefined {
  const { pathname } = new URL(path, `file:///${from}`);
  return ["", ".ts", ".tsx"].map((end) => `.${pathname}${end}`).find((file) => file in SOURCES);
}

function graph(node: (file: string) => string): Graph {
  const all: Graph = new Map();
  for (const [file, text] of Object.entries(SOURCES).filter(([f]) => !isTest(f))) {
    const from = node(file);
    const to = all.get(from) ?? new Set();
    all.set(from, to);
    for (const [, path] of text.matchAll(/(?:from|import) "(\.[^"]+)"/g)) {
      const target = path && imported(file, path);
      if (target && node(target) !== from) {
        to.add(node(target));
      }
    }
  }
  return all;
}

/** What is left once everything that leads nowhere else is taken away: the circles, and what leads into them. */
function circles(all: Graph): string[] {
  const left = new Map(all);
  for (;;) {
    const ends = [...left].filter(([, to]) => ![...to].some((t) => left.has(t)));
    if (ends.length === 0) {
      return [...left.keys()].sort();
    }
    for (const [node] of ends) {
      left.delete(node);
    }
  }
}

const room = (file: string) => file.split("/").slice(1, -1).join("/");

describe("the rooms of the interface", () => {
  it("sees a circle where there is one, and none where there is none", () => {
    const of = (...edges: [string, string[]][]) => new Map(edges.map(([n, to]) => [n, new Set(to)]));
    expect(circles(of(["a", ["b"]], ["b", ["c"]], ["c", ["b"]]))).toEqual(["a", "b", "c"]);
    expect(circles(of(["a", ["b", "c"]], ["b", ["c"]], ["c", []]))).toEqual([]);
  });

  it("reads what imports what", () => {
    const files = graph((f) => f);
    expect(files.size).toBeGreaterThan(100);
    expect(files.get("./page/BuildPage.tsx")).toContain("./line/Line.tsx");
  });

  it("has no circles, of files or of rooms", () => {
    expect(circles(graph((f) => f))).toEqual([]);
    expect(circles(graph(room))).toEqual([]);
  });
});
