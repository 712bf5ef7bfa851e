import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { usualRules } from "../api/catalog";
import type { Build, Schemas } from "../api/client";
import { build, recorded, station } from "../testing/build";
import { server, show } from "../testing/screen";
import { RulesForm } from "./RulesForm";

function ruled(rules: Partial<Schemas["Rules"]>): Build {
  const one = build([station(1)]);
  return { ...one, assessment: { ...one.assessment, rules: { ...one.assessment.rules, ...rules } } };
}

const field = (name: string) => document.querySelector(`[name="${name}"]`) as HTMLInputElement;

describe("the rules of a build", () => {
  it("are what the server counts with where nobody has said otherwise", () => {
    const usual = usualRules();
    show(<RulesForm build={ruled({})} />);
    expect(field("times-swap")).toHaveValue(String(usual.times.swap));
    expect(screen.getByRole("button", { name: "Polished off at most: 3 tenths" })).toBeVisible();
    expect(screen.getByRole("button", { name: "A piston closes by: not said" })).toBeVisible();
    // Nothing is hot before somebody says how hot: then the rest is as usual.
    expect(field("hot-ring_c")).toHaveValue("");
  });

  it("take a temperature beside the usual ones, and send what was seen with the reason", async () => {
    const of = ruled({});
    const asked = server({ "POST /builds/T-1/rules": recorded(of) });
    show(<RulesForm build={of} />);
    expect(screen.queryByRole("button", { name: "Change the rules" })).toBeNull();
    await userEvent.type(field("hot-ring_c"), "180");
    await userEvent.type(field("reason"), "long races");
    await userEvent.click(screen.getByRole("button", { name: "Change the rules" }));
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]?.body).toMatchObject({
      seen: of.assessment.rules,
      rules: { hot: { ...usualRules().hot, ring_c: 180 } },
      reason: "long races",
    });
  });

  it("say what a piston closes by, and keep it when a temperature changes", async () => {
    const hot = { ...usualRules().hot, piston_closes: 50_800 };
    const asked = server({ "POST /builds/T-1/rules": recorded(ruled({ hot })) });
    show(<RulesForm build={ruled({ hot })} />);
    expect(screen.getByRole("button", { name: "A piston closes by: 2 thou" })).toBeVisible();
    await userEvent.clear(field("hot-skirt_c"));
    await userEvent.type(field("hot-skirt_c"), "130");
    await userEvent.type(field("reason"), "measured{enter}");
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]?.body).toMatchObject({ rules: { hot: { piston_closes: 50_800 } } });
  });

  it("say how rough journals and faces may be, and send both when one is changed", async () => {
    const asked = server({ "POST /builds/T-1/rules": recorded(ruled({})) });
    show(<RulesForm build={ruled({})} />);
    expect(screen.getByRole("button", { name: "faces, Ra at most: 60 \u00b5in" })).toBeVisible();
    await userEvent.click(screen.getByRole("button", { name: "journals, Ra at most: 8 \u00b5in" }));
    await userEvent.click(await screen.findByRole("option", { name: "4 \u00b5in" }));
    await userEvent.type(field("reason"), "sprints{enter}");
    await waitFor(() => expect(asked).toHaveLength(1));
    const { face } = usualRules().finish;
    expect(asked[0]?.body).toMatchObject({ rules: { finish: { journal: 102, face } } });
  });

  it("let places be touched in rounds", async () => {
    const asked = server({ "POST /builds/T-1/rules": recorded(ruled({})) });
    show(<RulesForm build={ruled({})} />);
    await userEvent.click(screen.getByRole("button", { name: "Repeats: at once" }));
    await userEvent.click(await screen.findByRole("option", { name: "in rounds" }));
    await userEvent.type(field("reason"), "fewer touches{enter}");
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]?.body).toMatchObject({ rules: { rounds: true } });
  });

  it("are left as they were on demand", async () => {
    show(<RulesForm build={ruled({})} />);
    await userEvent.clear(field("times-swap"));
    await userEvent.type(field("times-swap"), "25");
    await userEvent.click(screen.getByRole("button", { name: /Leave/ }));
    expect(field("times-swap")).toHaveValue(String(usualRules().times.swap));
  });

  it("that somebody else changed meanwhile are refused in words", async () => {
    const changed = { status: 409, code: "changed_meanwhile", detail: "the rules are others by now" };
    server({ "POST /builds/T-1/rules": changed });
    show(<RulesForm build={ruled({})} />);
    await userEvent.type(field("times-swap"), "5");
    await userEvent.type(field("reason"), "slower{enter}");
    expect(await screen.findByRole("alert")).toHaveTextContent("The rules are others by now");
  });
});
