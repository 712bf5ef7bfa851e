import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { FloorRow } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { apprentice, lead } from "../testing/shop";
import { ImportBuild } from "./ImportBuild";
import { PutAway } from "./PutAway";
import { RemoveBuild } from "./RemoveBuild";
import { Unreadable } from "./Unreadable";

const engine = build([station(1)]);
const ROW = { id: engine.id, code: "T-1", engine: "Test three" } as FloorRow;

describe("removing a build for good", () => {
  it("wants its name typed once more, and a reason", async () => {
    const asked = server({ "POST /builds/T-1/removal": null });
    const closed = vi.fn();
    show(<RemoveBuild code="T-1" onClose={closed} />);
    const remove = screen.getByRole("button", { name: "Remove it for good" });
    expect(remove).toBeDisabled();
    await userEvent.type(screen.getByLabelText("Type T-1"), "T-2");
    expect(remove).toBeDisabled();
    await userEvent.clear(screen.getByLabelText("Type T-1"));
    await userEvent.type(screen.getByLabelText("Type T-1"), "T-1");
    await userEvent.type(screen.getByLabelText("Why"), "booked in twice");
    await userEvent.click(remove);
    await waitFor(() => expect(closed).toHaveBeenCalled());
    expect(asked[0]?.body).toEqual({ code: "T-1", reason: "booked in twice" });
  });

  it("says beside the reason that there is none", async () => {
    server({
      "POST /builds/T-1/removal": { status: 422, code: "bad_field", field: "reason", detail: "say why" },
    });
    show(<RemoveBuild code="T-1" onClose={vi.fn()} />);
    await userEvent.type(screen.getByLabelText("Type T-1"), "T-1{enter}");
    await waitFor(() => expect(screen.getByLabelText("Why")).toHaveAccessibleDescription(/say why/i));
  });
});

describe("putting a build away", () => {
  it("says why, and its return asks for no reason", async () => {
    const asked = server({ "POST /builds/T-1/archive": null });
    const { unmount } = show(<PutAway row={ROW} onClose={vi.fn()} />);
    await userEvent.type(screen.getByLabelText("Why"), "collected{enter}");
    await waitFor(() => expect(asked[0]?.body).toEqual({ archived: true, reason: "collected" }));
    unmount();
    const away = { ...ROW, archived: { reason: "collected", at: 0, by: lead.person } } as FloorRow;
    show(<PutAway row={away} onClose={vi.fn()} />);
    expect(screen.getByText("It was put away: collected.")).toBeVisible();
    expect(screen.queryByLabelText("Why")).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Back to the floor" }));
    await waitFor(() => expect(asked.at(-1)?.body).toMatchObject({ archived: false }));
  });
});

describe("importing a build", () => {
  const choose = (file: File) => userEvent.upload(screen.getByLabelText("Build file to import"), file);

  it("sends the file as it is, to the letter", async () => {
    const asked = server({ "POST /imports": { ...engine, code: "T-9" } });
    const imported = vi.fn();
    show(<ImportBuild onImported={imported} />);
    await choose(new File(['{ "form":   "jagged-pin-build/1" }'], "t.json", { type: "application/json" }));
    await waitFor(() => expect(imported).toHaveBeenCalledWith("T-9"));
    expect(asked[0]?.body).toEqual({ form: "jagged-pin-build/1" });
  });

  it("takes times of a clock that was wrong when somebody says so", async () => {
    const detail = "fact 9 says that it was recorded in the future: was the clock of that machine wrong?";
    const asked = server({ "POST /imports": { status: 422, code: "clock_ahead", detail } });
    show(<ImportBuild onImported={vi.fn()} />);
    await choose(new File(["{}"], "t.json", { type: "application/json" }));
    const take = await screen.findByRole("button", { name: "Take its times as they are" });
    await userEvent.click(take);
    await waitFor(() => expect(asked).toHaveLength(2));
  });

  it("says that a file is no JSON before it asks anybody", async () => {
    const asked = server({});
    show(<ImportBuild onImported={vi.fn()} />);
    await choose(new File(["not at all"], "notes.json", { type: "application/json" }));
    const dialog = await screen.findByRole("dialog", { name: "Nothing was imported" });
    expect(within(dialog).getByRole("alert")).toHaveTextContent(/notes.json is not JSON/i);
    expect(asked).toEqual([]);
    await userEvent.click(within(dialog).getByRole("button", { name: "Close" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });
});

describe("a build that cannot be read", () => {
  const rows = [{ id: "x", code: "T-7", engine: "Test three", why: "fact 3 is no fact" }];

  it("stands by itself, and only the lead removes it", async () => {
    server({});
    const { unmount } = show(<Unreadable rows={rows} session={apprentice} />);
    expect(screen.getByText(/fact 3 is no fact/)).toBeVisible();
    expect(screen.queryByRole("button")).toBeNull();
    unmount();
    show(<Unreadable rows={rows} session={lead} />);
    await userEvent.click(screen.getByRole("button", { name: "Remove T-7" }));
    expect(await screen.findByRole("dialog", { name: "Remove T-7 for good" })).toBeVisible();
  });

  it("takes no room where there is none", () => {
    const { container } = show(<Unreadable rows={[]} session={lead} />);
    expect(container).toBeEmptyDOMElement();
  });
});
