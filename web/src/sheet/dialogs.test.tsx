import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Session } from "../api/client";
import { build, judged, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { apprentice, lead } from "../testing/shop";
import { ConcessionDialog } from "./ConcessionDialog";
import { NotChecked, ranges } from "./NotChecked";
import { SignDialog } from "./SignDialog";

const tight = station(2, judged(19, "tight", -3));
const edge = station(3, judged(22, "edge", 0));
const of = build([station(1, judged(25, "in", 3)), tight, edge]);

describe("a concession", () => {
  it("is of the figure that was looked at, and names the danger of a tight one", async () => {
    const asked = server({ "POST /builds/T-1/concessions": recorded(of) });
    const closed = vi.fn();
    show(<ConcessionDialog build={of} station={tight} unit="in" onClose={closed} />);
    expect(screen.getByRole("note")).toHaveTextContent(/can seize/);
    await userEvent.type(
      screen.getByLabelText("Why may it run outside its target?"),
      "one race, thin oil{enter}",
    );
    await waitFor(() => expect(closed).toHaveBeenCalled());
    expect(asked[0]?.body).toMatchObject({
      station: "M2",
      figure: "oil_clearance",
      clearance: tight.judged?.clearance,
      state: "tight",
      reason: "one race, thin oil",
    });
  });

  it("of an edge is an acknowledgement, without that danger", () => {
    server({});
    show(<ConcessionDialog build={of} station={edge} unit="in" onClose={vi.fn()} />);
    expect(screen.getByRole("dialog", { name: "Acknowledge the edge at M3" })).toBeVisible();
    expect(screen.queryByRole("note")).toBeNull();
  });

  it("says beside the reason that it is missing, and elsewhere that the figure has moved", async () => {
    const empty = { status: 422, code: "bad_field", field: "reason", detail: "say why" };
    server({ "POST /builds/T-1/concessions": empty });
    const { unmount } = show(<ConcessionDialog build={of} station={edge} unit="in" onClose={vi.fn()} />);
    await userEvent.click(screen.getByRole("button", { name: "Acknowledge" }));
    await waitFor(() => expect(screen.getByRole("textbox")).toHaveAccessibleDescription(/say why/i));
    unmount();
    const moved = { status: 409, code: "figure_moved", detail: "it measures something else by now" };
    server({ "POST /builds/T-1/concessions": moved });
    show(<ConcessionDialog build={of} station={edge} unit="in" onClose={vi.fn()} />);
    await userEvent.type(screen.getByRole("textbox"), "as it is{enter}");
    expect(await screen.findByRole("alert")).toHaveTextContent("It measures something else by now");
  });
});

describe("a signature", () => {
  const sign = (role: "assembler" | "checker", session: Session) =>
    show(<SignDialog build={of} role={role} session={session} onClose={vi.fn()} />);

  it("names what is signed and wants the own password, which a refusal empties", async () => {
    const refused = { status: 401, code: "wrong_password", detail: "name or password is wrong" };
    const asked = server({ "POST /builds/T-1/signatures": refused });
    sign("assembler", lead);
    expect(screen.getByText(/Revision 1: 3 mains, 0 readings/)).toBeVisible();
    expect(screen.getByLabelText("Your name")).toHaveValue("harrow");
    await userEvent.type(screen.getByLabelText("Your password"), "guess{enter}");
    expect(await screen.findByRole("alert")).toHaveTextContent("Name or password is wrong");
    expect(screen.getByLabelText("Your password")).toHaveValue("");
    expect(asked[0]?.body).toMatchObject({ role: "assembler", login: "harrow", seq: of.assessment.seq });
  });

  it("of the checker is somebody else's: no name stands there", () => {
    server({});
    sign("checker", apprentice);
    expect(screen.getByLabelText("Your name")).toHaveValue("");
    // A password never lands in an open field, by habit or otherwise.
    expect(screen.getByLabelText("Your password")).toHaveFocus();
  });
});

describe("what was not checked", () => {
  it("tells places that follow each other from the first to the last", () => {
    expect(ranges(["M1", "M2", "M3", "M5", "R1", "E"])).toBe("M1\u2013M3, M5, R1, E");
    expect(ranges([])).toBe("");
    expect(ranges(["M9", "M10"])).toBe("M9\u2013M10");
  });

  it("stands as loudly as what was, and disowns only what no figure of this tool is about", () => {
    const bare = {
      ...of,
      assessment: {
        ...of.assessment,
        not_checked: [
          { kind: "figure" as const, figure: "piston_to_wall" as const, places: ["B1", "B2", "B3"] },
          { kind: "look" as const, part: "journal" as const, places: ["M2"] },
        ],
      },
    };
    render(<NotChecked build={bare} />);
    const list = screen.getByRole("region", { name: "Not checked" });
    expect(list).toHaveTextContent("Piston to wallB1\u2013B3");
    expect(list).toHaveTextContent("Journals looked atM2");
    expect(list).toHaveTextContent(/Nor is any word here about balance/);
    expect(list).not.toHaveTextContent(/about .*pistons/);
  });
});
