import { QueryClient } from "@tanstack/react-query";
import { waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { build, judged, station } from "../testing/build";
import { server } from "../testing/screen";
import { follows, merged } from "./changes";
import type { Build, Schemas } from "./client";
import { buildQuery, showChanges } from "./queries";

const shown = build([station(1), station(2)]);
const changes = (more: Partial<Schemas["ChangesView"]>): Schemas["ChangesView"] => ({
  id: shown.id,
  code: shown.code,
  since: 1,
  seq: 2,
  assessment: {},
  ...more,
});

afterEach(() => vi.unstubAllGlobals());

describe("what a write changed", () => {
  it("replaces the figures that are otherwise now, and leaves the rest as it is", () => {
    const m2 = station(2, judged(25, "in", 3));
    const next = merged(shown, changes({ assessment: { figures: [m2] } }));
    expect(next.assessment.figures).toEqual([shown.assessment.figures[0], m2]);
    expect(next.assessment.figures[0]).toBe(shown.assessment.figures[0]);
    expect(next.assessment.wanted).toBe(shown.assessment.wanted);
    expect(next.assessment.seq).toBe(2);
  });

  it("empties a list that is empty now, and keeps one that is not told of", () => {
    const asked = [
      { id: "x", station: "M1", characteristic: "main_journal" as const, part: "journal" as const },
    ];
    const before = { ...shown, asked };
    expect(merged(before, changes({ asked: [] })).asked).toEqual([]);
    expect(merged(before, changes({})).asked).toEqual(asked);
  });

  it("does not follow where something lies between", () => {
    expect(follows(shown, changes({ since: 1 }))).toBe(true);
    expect(follows(shown, changes({ since: 3, seq: 4 }))).toBe(false);
    expect(follows(shown, changes({ since: 3, seq: 4, whole: shown }))).toBe(true);
  });

  it("is fetched from where the page stands when something lies between", async () => {
    const after = { ...shown, assessment: { ...shown.assessment, seq: 4 } };
    const asked = server({ "GET /builds/T-1/changes": changes({ seq: 4, whole: after }) });
    const client = new QueryClient();
    const key = buildQuery("T-1").queryKey;
    client.setQueryData<Build>(key, shown);
    showChanges(client, changes({ since: 3, seq: 4 }));
    await waitFor(() => expect(client.getQueryData<Build>(key)?.assessment.seq).toBe(4));
    expect(asked).toHaveLength(1);
  });

  it("is left out when something later is shown already", () => {
    const client = new QueryClient();
    const later = { ...shown, assessment: { ...shown.assessment, seq: 9 } };
    client.setQueryData(buildQuery("T-1").queryKey, later);
    expect(showChanges(client, changes({}))).toBe(later);
  });
});
