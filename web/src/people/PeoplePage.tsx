import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Member, type Schemas, type Session, unwrap } from "../api/client";
import { peopleQuery, rolesQuery, shopLogQuery } from "../api/queries";
import { ProblemNote } from "../shared/ProblemNote";
import { momentText } from "../shared/words";
import { ShopPlaces } from "../shop/ShopPlaces";
import { InvitationNote } from "./InvitationNote";
import { PersonDialog } from "./PersonDialog";
import { ShopLog } from "./ShopLog";

/** Whom somebody is to the shop: by shape and word. */
function standing(member: Member): { word: string; look: string } {
  if (member.disabled) return { word: "cannot sign in", look: "border-ink bg-ink" };
  if (member.has_password) return { word: "signs in", look: "border-dye bg-dye" };
  if (member.invited_until != null) return { word: "invited", look: "border-dye bg-paper" };
  return { word: "no way in", look: "border-ink-3 border-dashed bg-paper" };
}

/** The shop's people: who they are, what they may, and letting them in. */
export function PeoplePage({ session }: { session: Session }) {
  const people = useQuery(peopleQuery);
  const roles = useQuery(rolesQuery);
  const log = useQuery(shopLogQuery);
  const [editing, setEditing] = useState<Member | "new">();
  const [invited, setInvited] = useState<{ member: Member; invitation: Schemas["InvitationView"] }>();
  const client = useQueryClient();
  const renew = () => {
    void client.invalidateQueries(peopleQuery);
    void client.invalidateQueries(shopLogQuery);
  };
  const invite = useMutation({
    mutationFn: async (member: Member) => ({
      member,
      invitation: await unwrap(
        api.POST("/api/v1/people/{person}/invitation", { params: { path: { person: member.person.id } } }),
      ),
    }),
    onSuccess: (made) => {
      setInvited(made);
      renew();
    },
  });
  const end = useMutation({
    mutationFn: (member: Member) =>
      unwrap(
        api.DELETE("/api/v1/people/{person}/sessions", { params: { path: { person: member.person.id } } }),
      ),
    onSuccess: renew,
  });
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,860fr)_minmax(0,420fr)] relative overflow-auto">
      <section aria-label="People" className="px-6 pt-3 pb-6">
        <div className="flex h-12 items-center gap-4">
          <h1 className="text-title font-bold">{session.shop}</h1>
          <ShopPlaces />
          <button type="button" className="btn btn-main ml-auto" onClick={() => setEditing("new")}>
            Add somebody
          </button>
        </div>
        <div className="grad" />
        <p className="mt-3 mb-2 text-small text-ink-2">
          What somebody recorded keeps the name they had. Nobody is ever removed: those who left cannot sign
          in.
        </p>
        <ProblemNote problem={people.error ?? invite.error ?? end.error} />
        <table className="w-full border-collapse text-[14px]">
          <caption className="sr-only">Everybody of the shop</caption>
          <thead>
            <tr className="border-b border-ink text-left text-small text-ink-2">
              <th className="py-1 font-medium">Name</th>
              <th className="font-medium">Signs in as</th>
              <th className="font-medium">Role</th>
              <th className="font-medium">Standing</th>
              <th className="font-medium">Sessions</th>
              <th>
                <span className="sr-only">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {people.data?.map((member) => {
              const { word, look } = standing(member);
              return (
                <tr
                  key={member.person.id}
                  data-person={member.login}
                  className="h-[52px] border-b border-hair"
                >
                  <th scope="row" className="text-left text-[16px] font-bold">
                    {member.person.name}
                  </th>
                  <td className="num">{member.login}</td>
                  <td>{member.role}</td>
                  <td>
                    <span
                      data-standing={word}
                      className="inline-flex items-center gap-2 text-small font-semibold whitespace-nowrap"
                    >
                      <span aria-hidden="true" className={`size-3.5 border ${look}`} />
                      {word}
                    </span>
                  </td>
                  <td className="text-small text-ink-2">
                    {member.sessions === 0
                      ? "none open"
                      : `${member.sessions} open, ${momentText(member.seen ?? 0)}`}
                  </td>
                  <td className="text-right whitespace-nowrap">
                    <button type="button" className="order-act" onClick={() => setEditing(member)}>
                      Change
                    </button>
                    {!member.disabled && (
                      <button
                        type="button"
                        className="order-act ml-2"
                        disabled={invite.isPending}
                        onClick={() => invite.mutate(member)}
                      >
                        {member.has_password ? "New password" : "Invite"}
                      </button>
                    )}
                    {member.sessions > 0 && member.person.id !== session.person.id && (
                      <button
                        type="button"
                        className="order-act ml-2"
                        disabled={end.isPending}
                        onClick={() => end.mutate(member)}
                      >
                        End sessions
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </section>
      <section
        aria-label="The shop's log"
        className="relative border-l-[1.5px] border-ink bg-paper px-7 pt-4 pb-6"
      >
        <div className="grad-down absolute inset-y-0 left-0" />
        <ShopLog lines={log.data ?? []} />
        <ProblemNote problem={log.error} />
      </section>
      {editing && (
        <PersonDialog
          member={editing === "new" ? undefined : editing}
          own={editing !== "new" && editing.person.id === session.person.id}
          roles={roles.data?.map((r) => r.name) ?? []}
          onClose={() => setEditing(undefined)}
          onDone={(all, added) => {
            client.setQueryData(peopleQuery.queryKey, all);
            renew();
            setEditing(undefined);
            // Whoever is added has no way in yet.
            const member = all.find((m) => m.person.id === added);
            if (member) invite.mutate(member);
          }}
        />
      )}
      {invited && (
        <InvitationNote
          name={invited.member.person.name}
          invitation={invited.invitation}
          onClose={() => setInvited(undefined)}
        />
      )}
    </main>
  );
}
