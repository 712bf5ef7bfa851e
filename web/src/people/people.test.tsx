import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { type Asked, server, show } from "../testing/screen";
import { lead, member } from "../testing/shop";
import { PeoplePage } from "./PeoplePage";

const ROLES = [{ name: "assembler", capabilities: lead.capabilities, people: [], version: 1 }];
const own = { ...member("harrow"), person: lead.person, sessions: 1, seen: 0 };
const INVITATION = { secret: "s3cret", until: 0 };

function shop(people: unknown, more: Record<string, unknown> = {}): Asked[] {
  return server({ "GET /people": people, "GET /roles": ROLES, "GET /shop-log": [], ...more });
}

const row = (name: string) => screen.findByRole("row", { name: new RegExp(name) });
const sent = (asked: Asked[], method: string) => asked.find((a) => a.method === method);

describe("the people of the shop", () => {
  it("stand with how they get in, by word", async () => {
    shop([
      member("wick"),
      member("kell", { disabled: true }),
      member("oduya", { has_password: false, invited_until: 0 }),
      member("fenn", { has_password: false }),
    ]);
    show(<PeoplePage session={lead} />);
    for (const [name, word] of [
      ["WICK", "signs in"],
      ["KELL", "cannot sign in"],
      ["ODUYA", "invited"],
      ["FENN", "no way in"],
    ] as const) {
      expect(within(await row(name)).getByText(word)).toBeVisible();
    }
    // Nobody who is shut out is invited again before that is changed.
    expect(within(await row("KELL")).queryByRole("button", { name: /Invite|New password/ })).toBeNull();
  });

  it("are invited by an address that is shown once", async () => {
    const fenn = member("fenn", { has_password: false });
    const asked = shop([fenn], { [`POST /people/${fenn.person.id}/invitation`]: INVITATION });
    show(<PeoplePage session={lead} />);
    await userEvent.click(within(await row("FENN")).getByRole("button", { name: "Invite" }));
    const dialog = await screen.findByRole("dialog", { name: "An invitation for FENN" });
    expect(within(dialog).getByText(/invitation#s3cret$/)).toBeVisible();
    await userEvent.click(within(dialog).getByRole("button", { name: "Done" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(screen.queryByText(/s3cret/)).toBeNull();
    // The list says since then that there is an invitation.
    expect(asked.filter((a) => a.path === "/people").length).toBeGreaterThan(1);
  });

  it("have their sessions ended, but nobody ends their own from here", async () => {
    const wick = member("wick", { sessions: 2, seen: 0 });
    const asked = shop([own, wick], { [`DELETE /people/${wick.person.id}/sessions`]: null });
    show(<PeoplePage session={lead} />);
    expect(within(await row("M. Harrow")).queryByRole("button", { name: "End sessions" })).toBeNull();
    await userEvent.click(within(await row("WICK")).getByRole("button", { name: "End sessions" }));
    await waitFor(() => expect(sent(asked, "DELETE")?.path).toBe(`/people/${wick.person.id}/sessions`));
  });

  it("are added under an identifier of the browser, so that a lost answer adds nobody twice", async () => {
    const asked = shop([own]);
    show(<PeoplePage session={lead} />);
    await userEvent.click(await screen.findByRole("button", { name: "Add somebody" }));
    await userEvent.type(screen.getByLabelText(/^Name/), "A. Stour");
    await userEvent.type(screen.getByLabelText("Signs in as"), "stour");
    await userEvent.click(screen.getByRole("button", { name: "Add and invite" }));
    await waitFor(() =>
      expect(sent(asked, "POST")?.body).toMatchObject({
        id: expect.stringMatching(/^[0-9a-f-]{36}$/),
        name: "A. Stour",
        login: "stour",
        role: "assembler",
      }),
    );
  });

  it("are shut out by the version that was looked at, and a refusal stands where it happened", async () => {
    const wick = member("wick", { version: 7 });
    const asked = shop([own, wick], {
      [`PUT /people/${wick.person.id}`]: {
        status: 409,
        code: "changed_meanwhile",
        detail: "somebody else changed this person",
      },
    });
    show(<PeoplePage session={lead} />);
    await userEvent.click(within(await row("WICK")).getByRole("button", { name: "Change" }));
    const dialog = await screen.findByRole("dialog");
    await userEvent.click(within(dialog).getByRole("checkbox", { name: /Shut out/ }));
    await userEvent.click(within(dialog).getByRole("button", { name: "Change it" }));
    expect(await within(dialog).findByText(/Somebody else changed this person/)).toBeVisible();
    expect(sent(asked, "PUT")?.body).toMatchObject({ disabled: true, version: 7 });
  });

  it("do not shut themselves out", async () => {
    shop([own]);
    show(<PeoplePage session={lead} />);
    await userEvent.click(within(await row("M. Harrow")).getByRole("button", { name: "Change" }));
    expect(within(await screen.findByRole("dialog")).queryByRole("checkbox")).toBeNull();
  });
});

describe("the shop's log", () => {
  it("says who did what, and what came from the command line", async () => {
    const lines = [
      { seq: 2, kind: "added", at: 0, by: lead.person, text: "A. Stour was added" },
      { seq: 1, kind: "opened", at: 0, text: "the shop was opened" },
    ];
    server({ "GET /people": [own], "GET /roles": ROLES, "GET /shop-log": lines });
    show(<PeoplePage session={lead} />);
    expect(await screen.findByText("A. Stour was added")).toBeVisible();
    const log = screen.getByRole("region", { name: "The shop's log" });
    expect(within(log).getByText(/M. Harrow/)).toBeVisible();
    expect(within(log).getByText(/from the command line/)).toBeVisible();
  });

  it("says so while nothing was done", async () => {
    shop([own]);
    show(<PeoplePage session={lead} />);
    expect(await screen.findByText("Nothing was done yet.")).toBeVisible();
  });
});
