import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Member, unwrap } from "../api/client";
import { Choice } from "../shared/Choice";
import { DialogForm } from "../shared/DialogForm";
import { Field } from "../shared/Field";
import { newId } from "../shared/id";
import { Sheetlet } from "../shared/Sheetlet";

type PersonDialogProps = {
  /** Who is changed; somebody new when absent. */
  member: Member | undefined;
  /** Whether it is oneself. */
  own: boolean;
  roles: string[];
  onClose: () => void;
  onDone: (all: Member[], added?: string) => void;
};

/** Adds somebody, or changes their name, login and role, or shuts them out. */
export function PersonDialog({ member, own, roles, onClose, onDone }: PersonDialogProps) {
  const [id] = useState(newId);
  const [name, setName] = useState(member?.person.name ?? "");
  const [login, setLogin] = useState(member?.login ?? "");
  const [role, setRole] = useState(member?.role ?? "assembler");
  const [disabled, setDisabled] = useState(member?.disabled ?? false);
  const keep = useMutation({
    mutationFn: () =>
      member
        ? unwrap(
            api.PUT("/api/v1/people/{person}", {
              params: { path: { person: member.person.id } },
              body: { name, login, role, disabled, version: member.version },
            }),
          )
        : unwrap(api.POST("/api/v1/people", { body: { id, name, login, role } })),
    onSuccess: (all) => onDone(all, member ? undefined : id),
  });
  return (
    <Sheetlet open title={member ? `Change ${member.person.name}` : "Add somebody"} onClose={onClose}>
      <DialogForm
        problem={keep.error}
        action={member ? "Change it" : "Add and invite"}
        disabled={keep.isPending}
        onSubmit={() => keep.mutate()}
        onClose={onClose}
      >
        <Field
          label="Name, as it stands under what they record"
          name="name"
          value={name}
          autoFocus
          problem={keep.error}
          onChange={(e) => setName(e.target.value)}
        />
        <Field
          label="Signs in as"
          name="login"
          value={login}
          autoComplete="off"
          problem={keep.error}
          onChange={(e) => setLogin(e.target.value)}
        />
        <div>
          <Choice
            label="Role"
            showLabel
            value={role}
            options={roles.map((r) => ({ value: r, text: r }))}
            onChange={setRole}
            className="h-10 w-full"
          />
        </div>
        {member && !own && (
          <label className="flex min-h-10 items-center gap-3">
            <input
              type="checkbox"
              name="disabled"
              checked={disabled}
              onChange={(e) => setDisabled(e.target.checked)}
              className="size-5 accent-dye"
            />
            <span>
              Shut out
              <span className="block text-small text-ink-2">
                Their sessions end, and they cannot sign in. What they recorded stays.
              </span>
            </span>
          </label>
        )}
      </DialogForm>
    </Sheetlet>
  );
}
