import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { server, show } from "../testing/screen";
import { checked, FAMILY_VIEW } from "../testing/shells";
import { FamilyEditor } from "./FamilyEditor";
import { PredictionRecord } from "./PredictionRecord";
import { Stock } from "./Stock";

const T = 2_540;
const BY = { id: "00000000-0000-4000-8000-000000000001", name: "M. Harrow" };

const view = FAMILY_VIEW;

afterEach(() => vi.unstubAllGlobals());

describe("the shelf of a family", () => {
  it("shows every half with its place, none where nothing lies, and the sets of that undersize", () => {
    show(<Stock view={view} />);
    expect(screen.getByRole("button", { name: "4 std uppers, change" })).toBeVisible();
    expect(screen.getByRole("button", { name: "0 +1 lowers, change" })).toBeVisible();
    expect(screen.getByLabelText("Where std uppers lie")).toHaveValue("A1");
    expect(screen.getByText("CMGS00")).toBeVisible();
    expect(screen.queryByText("CMGS25")).toBeNull();
  });

  it("keeps a place on Enter", async () => {
    const asked = server({ "PUT /shells/CM/places": view });
    show(<Stock view={view} />);
    await userEvent.type(screen.getByLabelText("Where +1 lowers lie"), "E7{Enter}");
    await waitFor(() =>
      expect(asked[0]?.body).toEqual({ half: "lower", class: "+1", undersize: 0, place: "E7" }),
    );
  });

  it("receives a set with its delivery note, and says what is wrong with it", async () => {
    const asked = server({
      "POST /shells/CM/sets": {
        status: 422,
        code: "bad_field",
        field: "reason",
        detail: "say why, in a few words",
      },
    });
    show(<Stock view={view} />);
    await userEvent.click(screen.getByRole("button", { name: "Receive" }));
    await userEvent.click(screen.getByRole("button", { name: "Put it on the shelf" }));
    expect(await screen.findByText("say why, in a few words")).toBeVisible();
    expect(asked[0]?.body).toMatchObject({ part_number: "CMGS00", sets: 1 });
  });
});

describe("a family", () => {
  it("is sent as it is typed, with the version that was seen", async () => {
    const asked = server({ "PUT /shells/CM": view });
    const onDone = vi.fn();
    show(<FamilyEditor view={view} onDone={onDone} />);
    await userEvent.clear(screen.getByLabelText("Undersizes, standard (0) first"));
    await userEvent.type(screen.getByLabelText("Undersizes, standard (0) first"), "0 .010 .020");
    await userEvent.click(screen.getByLabelText("a dowel hole"));
    const classes = within(screen.getByRole("table", { name: "Size classes" }));
    await userEvent.click(classes.getByRole("button", { name: "Take row 2 away" }));
    await userEvent.click(screen.getByRole("button", { name: "Keep it" }));
    await waitFor(() => expect(onDone).toHaveBeenCalledWith("CM"));
    expect(asked[0]?.body).toMatchObject({
      version: 3,
      undersizes: ["0", ".010", ".020"],
      needs: ["grooved", "dowel"],
      classes: [{ id: "std", shift: "0.0000" }],
    });
  });

  it("shows what does not go together", async () => {
    server({
      "PUT /shells/CM": { status: 422, code: "bad_field", field: "wall", detail: '"thick" is no length' },
    });
    show(<FamilyEditor view={view} onDone={vi.fn()} />);
    await userEvent.type(screen.getByLabelText("Standard wall, at most"), "x");
    await userEvent.click(screen.getByRole("button", { name: "Keep it" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("thick");
    expect(screen.getByLabelText("Standard wall, at most")).toBeInvalid();
    expect(screen.getByLabelText("Standard wall, at most")).toHaveAccessibleDescription(/thick/);
  });
});

describe("the record of predictions", () => {
  it("draws every promise against what was measured and tells the lean", async () => {
    server({
      "GET /predictions": {
        fittings: [
          {
            build: "T-1",
            row: "mains",
            at: 0,
            by: BY,
            note: "tight",
            estimated: 36,
            booked: 50,
            checks: [checked("M2", 1, true), checked("M5", 3, false)],
            open: [],
          },
        ],
        checked: 2,
        agreed: 1,
        bias: 2 * T,
      },
    });
    show(<PredictionRecord />);
    expect(await screen.findByText("1 of 2")).toBeVisible();
    expect(screen.getByText(/on the average 2 tenths more than promised/)).toBeVisible();
    expect(screen.getByRole("img")).toHaveAccessibleName("T-1 M2 1; T-1 M5 3 missed");
    expect(screen.getByText(/estimated 36 min, took 50 min/)).toBeVisible();
  });

  it("says what to do while there is nothing to compare", async () => {
    server({ "GET /predictions": { fittings: [], checked: 0, agreed: 0, bias: null } });
    show(<PredictionRecord />);
    expect(await screen.findByText(/fit shells from a proposal and measure over them/)).toBeVisible();
  });
});
