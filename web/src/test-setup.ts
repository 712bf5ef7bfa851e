import "@testing-library/jest-dom/vitest";
import { cleanup, configure } from "@testing-library/react";
import { afterEach } from "vitest";
import catalog from "../../docs/catalog.json";
import { keepCatalog } from "./api/catalog";
import type { Schemas } from "./api/client";

// As the server sends it.
keepCatalog(catalog as Schemas["CatalogView"]);

afterEach(cleanup);

// How long a state may take to show. Only a test that fails waits that long.
configure({ asyncUtilTimeout: 15_000 });

// The test page has no layout to scroll.
Element.prototype.scrollIntoView ??= () => undefined;

// The simulated browser has files that cannot be read as text; browsers have.
File.prototype.text ??= function text(this: File) {
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error);
    reader.readAsText(this);
  });
};

// Nothing has a size there that could change.
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
