import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "../api/client";
import { build, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { PicturesView } from "./PicturesView";

function picture(more: Partial<Schemas["PictureView"]>): Schemas["PictureView"] {
  return {
    id: "00000000-0000-4000-8000-0000000000a1",
    seq: 9,
    at: 0,
    by: { id: "00000000-0000-4000-8000-000000000002", name: "R. Oduya" },
    place: "M1",
    moment: "found",
    digest: "a".repeat(64),
    width: 960,
    height: 640,
    note: "scored",
    struck: false,
    ...more,
  };
}

function showPictures(pictures: unknown) {
  const asked = server({ "GET /builds/T-1/pictures": pictures });
  show(<PicturesView build={build([station(1)])} station={station(1)} />);
  return asked;
}

describe("the pictures of a station", () => {
  it("stand side by side, before and after, and only its own", async () => {
    const after = picture({ id: "2", digest: "b".repeat(64), moment: "after", note: "polished" });
    showPictures([picture({}), after, picture({ id: "3", place: "M2", note: "another main" })]);
    const before = await screen.findByRole("region", { name: "Before" });
    expect(within(before).getByRole("img")).toHaveAttribute(
      "src",
      `/api/v1/builds/T-1/pictures/${"a".repeat(64)}`,
    );
    expect(within(screen.getByRole("region", { name: "After" })).getByText("polished")).toBeVisible();
    expect(screen.queryByText("another main")).toBeNull();
  });

  it("are struck with a reason, and stay crossed out", async () => {
    const asked = showPictures([picture({}), picture({ id: "2", note: "the wrong main", struck: true })]);
    expect(await screen.findByText("the wrong main")).toHaveClass("line-through");
    await userEvent.click(screen.getByRole("button", { name: "Strike" }));
    await userEvent.type(screen.getByLabelText("Why is it wrong?"), "another main");
    await userEvent.click(screen.getByRole("button", { name: "Strike it" }));
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ method: "POST", path: "/builds/T-1/strikes" }));
    expect(asked.at(-1)?.body).toMatchObject({ reading: picture({}).id, reason: "another main" });
  });

  it("say what a picture is good for while there is none", async () => {
    showPictures([]);
    expect(await screen.findByText(/No picture of M1 yet/)).toBeVisible();
    expect(screen.getByRole("button", { name: "Keep the picture" })).toBeDisabled();
  });

  it("are sent as they are, with where, when and what", async () => {
    showPictures([]);
    const sent: Request[] = [];
    const known = globalThis.fetch;
    vi.stubGlobal("fetch", async (input: Request) => {
      if (input.method !== "POST") return known(input);
      sent.push(input);
      return new Response(JSON.stringify({ status: 422, code: "bad_field", detail: "this is no picture" }), {
        status: 422,
        headers: { "content-type": "application/json" },
      });
    });
    const file = new File([new Uint8Array([1, 2, 3])], "m1.jpg", { type: "image/jpeg" });
    await userEvent.upload(await screen.findByLabelText(/Picture of M1/), file);
    await userEvent.type(screen.getByLabelText("What it shows"), "witness line");
    await userEvent.click(screen.getByRole("radio", { name: "Before" }));
    await userEvent.click(screen.getByRole("button", { name: "Keep the picture" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    const address = new URL(sent[0]?.url ?? "");
    expect(Object.fromEntries(address.searchParams)).toMatchObject({
      place: "M1",
      moment: "before",
      note: "witness line",
    });
    expect(sent[0]?.headers.get("content-type")).toBe("image/jpeg");
    // A refusal loses nothing of what was typed.
    expect((await screen.findAllByText(/no picture/)).length).toBeGreaterThan(0);
    expect(screen.getByLabelText("What it shows")).toHaveValue("witness line");
  });
});
