import { useQuery } from "@tanstack/react-query";
import type { Session } from "../api/client";
import { presetsQuery, rolesQuery } from "../api/queries";
import { ProblemNote } from "../shared/ProblemNote";
import { PresetTable } from "./PresetTable";
import { RoleTable } from "./RoleTable";
import { SealCheck } from "./SealCheck";
import { ShopPlaces } from "./ShopPlaces";

/** What the shop decides for itself: who may do what, and where its targets start. */
export function ShopPage({ session }: { session: Session }) {
  const roles = useQuery(rolesQuery);
  const presets = useQuery(presetsQuery({ unit: "in" }));
  const mayChange = session.capabilities.run_shop;
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,700fr)_minmax(0,580fr)] relative overflow-auto">
      <section aria-label="Who may do what" className="px-6 pt-3 pb-6">
        <div className="flex h-12 items-center gap-4">
          <h1 className="text-title font-bold">{session.shop}</h1>
          {mayChange && <ShopPlaces />}
        </div>
        <div className="grad" />
        <h2 className="mt-3 text-lead font-bold">Who may do what</h2>
        <p className="mb-2 text-small text-ink-2">
          {mayChange
            ? "Press a mark to change it. What was recorded before stays as it is."
            : "The lead changes what a role allows."}
        </p>
        <ProblemNote problem={roles.error} />
        {roles.data && <RoleTable roles={roles.data} mayChange={mayChange} />}
        <SealCheck />
      </section>
      <section
        aria-label="Where targets start"
        className="relative border-l-[1.5px] border-ink bg-paper px-7 pt-4 pb-6"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        <h2 className="text-lead font-bold">Where targets start</h2>
        <p className="mb-2 text-small text-ink-2">
          Windows by the use of the engine, to start a target from. The maker's sheet wins; a factory wear
          range is none of them.
        </p>
        <ProblemNote problem={presets.error} />
        {presets.data && <PresetTable key={presets.data.version} kept={presets.data} mayChange={mayChange} />}
      </section>
    </main>
  );
}
