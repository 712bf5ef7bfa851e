import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { server, show } from "../testing/screen";
import { lead } from "../testing/shop";
import { SignIn } from "./SignIn";
import { SignInAgain } from "./SignInAgain";

const FRONT = { shop: "Saltmarsh Engines", people: true, demo: false };

describe("signing in", () => {
  it("sends what was typed, and empties the password when it is refused", async () => {
    const refused = { status: 401, code: "wrong_password", detail: "name or password is wrong" };
    const asked = server({ "GET /front": FRONT, "POST /session": refused });
    show(<SignIn />);
    expect(await screen.findByText("Saltmarsh Engines")).toBeVisible();
    await userEvent.type(screen.getByLabelText("Name"), "harrow");
    await userEvent.type(screen.getByLabelText("Password"), "guess{enter}");
    expect(await screen.findByRole("alert")).toHaveTextContent("Name or password is wrong");
    expect(asked.find((a) => a.method === "POST")?.body).toEqual({ login: "harrow", password: "guess" });
    expect(screen.getByLabelText("Name")).toHaveValue("harrow");
    expect(screen.getByLabelText("Password")).toHaveValue("");
  });

  it("says how a shop is opened where nobody can sign in yet", async () => {
    server({ "GET /front": { ...FRONT, people: false } });
    show(<SignIn />);
    expect(await screen.findByText("Nobody can sign in yet")).toBeVisible();
    expect(screen.getByText("jagged-pin shop open")).toBeVisible();
    expect(screen.queryByLabelText("Password")).toBeNull();
  });

  it("speaks of demo accounts in a demo only", async () => {
    server({ "GET /front": { ...FRONT, demo: true } });
    const { unmount } = show(<SignIn />);
    expect(await screen.findByText(/prints the demo accounts/)).toBeVisible();
    unmount();
    server({ "GET /front": FRONT });
    show(<SignIn />);
    await screen.findByText("Saltmarsh Engines");
    expect(screen.queryByText(/demo accounts/)).toBeNull();
  });

  it("can be done again over the work when a session has ended", async () => {
    server({ "POST /session": lead });
    const done = vi.fn();
    show(<SignInAgain login="harrow" onDone={done} />);
    expect(await screen.findByLabelText("Name")).toHaveValue("harrow");
    expect(screen.getByText(/What was not kept is still in its cell/)).toBeVisible();
    await userEvent.type(screen.getByLabelText("Password"), "slack-water-lead{enter}");
    await waitFor(() => expect(done).toHaveBeenCalledOnce());
  });

  it("says that the server cannot be reached", async () => {
    server({ "GET /front": FRONT });
    show(<SignIn />);
    await screen.findByText("Saltmarsh Engines");
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("no network")));
    await userEvent.type(screen.getByLabelText("Name"), "harrow");
    await userEvent.type(screen.getByLabelText("Password"), "x{enter}");
    expect(await screen.findByText(/server cannot be reached/)).toBeVisible();
  });
});
