import { Problem } from "../api/client";
import { Notice } from "../shared/Notice";

/** A build that cannot be shown: because there is none, or because its record cannot be read. */
export function NoBuild({ code, error }: { code: string; error: Error }) {
  const unreadable = error instanceof Problem && error.code === "unreadable";
  const text = error.message.charAt(0).toUpperCase() + error.message.slice(1);
  return (
    <Notice title={unreadable ? `${code} cannot be read` : `${code} is not here`} text={`${text}.`} back />
  );
}
