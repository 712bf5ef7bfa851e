import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { server, show, showPage } from "../testing/screen";
import { lead } from "../testing/shop";
import { AccountPage } from "./AccountPage";
import { InvitationPage } from "./InvitationPage";

const THIS = {
  handle: "a",
  this: true,
  begun: 0,
  seen: 0,
  browser: "Mozilla (X11; Linux)",
  address: "10.0.0.2",
};
const OTHER = { handle: "b", this: false, begun: 0, seen: 0, browser: "Mozilla (iPad)" };

describe("the own account", () => {
  it("shows where one is signed in, and ends any session but this one", async () => {
    const asked = server({ "GET /sessions": [THIS, OTHER], "DELETE /sessions/b": null });
    show(<AccountPage session={lead} />);
    const here = (await screen.findByText("A browser on Linux")).closest("li") as HTMLElement;
    expect(within(here).getByText("this one")).toBeVisible();
    expect(within(here).queryByRole("button")).toBeNull();
    const there = screen.getByText("A browser on iPad").closest("li") as HTMLElement;
    await userEvent.click(within(there).getByRole("button", { name: "End it" }));
    await waitFor(() => expect(asked.some((a) => a.method === "DELETE")).toBe(true));
  });

  it("keeps a password only when both new ones are the same", async () => {
    const asked = server({ "GET /sessions": [THIS], "PUT /password": null });
    show(<AccountPage session={lead} />);
    const type = async (again: string) => {
      for (const [label, text] of [
        ["The password so far", "slack-water-lead"],
        ["The new one", "neap tide at noon"],
        ["The same again", again],
      ] as const) {
        await userEvent.clear(screen.getByLabelText(label));
        await userEvent.type(screen.getByLabelText(label), text);
      }
      await userEvent.click(screen.getByRole("button", { name: "Change it" }));
    };
    await type("neap tide at moon");
    expect(await screen.findByText(/two new passwords are different/)).toBeVisible();
    expect(asked.some((a) => a.method === "PUT")).toBe(false);
    await type("neap tide at noon");
    expect(await screen.findByText(/Every other session of yours has ended/)).toBeVisible();
    expect(asked.find((a) => a.method === "PUT")?.body).toEqual({
      old: "slack-water-lead",
      password: "neap tide at noon",
    });
    // Nothing of it stays in the fields.
    expect(screen.getByLabelText("The new one")).toHaveValue("");
  });

  it("says beside the field what is wrong with a password", async () => {
    server({
      "GET /sessions": [THIS],
      "PUT /password": { status: 422, code: "bad_field", field: "password", detail: "10 characters or more" },
    });
    show(<AccountPage session={lead} />);
    await userEvent.type(screen.getByLabelText("The password so far"), "x");
    await userEvent.type(screen.getByLabelText("The new one"), "short");
    await userEvent.type(screen.getByLabelText("The same again"), "short");
    await userEvent.click(screen.getByRole("button", { name: "Change it" }));
    await waitFor(() =>
      expect(screen.getByLabelText("The new one")).toHaveAccessibleDescription(/10 characters/),
    );
  });
});

describe("an invitation", () => {
  const opened = (address: string) => showPage(<InvitationPage />, address, "/invitation");

  it("is taken up with a password, by the secret behind the mark", async () => {
    const asked = server({
      "POST /invitation": { login: "stour", name: "A. Stour", shop: "Saltmarsh Engines" },
      "PUT /invitation": lead,
    });
    opened("/invitation#s3cret");
    expect(await screen.findByRole("heading", { name: "A. Stour" })).toBeVisible();
    expect(asked[0]?.body).toEqual({ secret: "s3cret" });
    await userEvent.type(screen.getByLabelText("A password of your own"), "neap tide at noon");
    await userEvent.type(screen.getByLabelText("The same again"), "neap tide at noon");
    await userEvent.click(screen.getByRole("button", { name: "Come in" }));
    expect(await screen.findByText("The floor")).toBeVisible();
    expect(asked.at(-1)?.body).toEqual({ secret: "s3cret", password: "neap tide at noon" });
  });

  it("that was used or has run out says so and offers nothing to type", async () => {
    server({
      "POST /invitation": {
        status: 404,
        code: "no_such_invitation",
        detail: "this invitation is not good any more",
      },
    });
    opened("/invitation#old");
    expect(await screen.findByText(/not good any more/)).toBeVisible();
    expect(screen.queryByLabelText("A password of your own")).toBeNull();
  });
});
