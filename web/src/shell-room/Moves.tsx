import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "../api/client";
import { ProblemNote } from "../shared/ProblemNote";
import { momentText } from "../shared/words";
import { HALF, KIND } from "../shells/Shelf";

/** What was done to a shelf, the latest first. */
export function Moves({ family }: { family: Schemas["ShellFamily"] }) {
  const moves = useQuery({
    queryKey: ["moves", family.id],
    queryFn: () =>
      unwrap(api.GET("/api/v1/shells/{family}/moves", { params: { path: { family: family.id } } })),
  });
  if (moves.isError) return <ProblemNote problem={moves.error} />;
  if (moves.data?.length === 0) {
    return <p className="text-small text-ink-2">Nothing was received, picked or counted anew yet.</p>;
  }
  return (
    <table className="w-full text-small">
      <caption className="sr-only">Changes of the shelf of {family.name}</caption>
      <thead>
        <tr className="text-left text-note text-ink-2">
          <th className="font-medium">When, who</th>
          <th className="font-medium">What</th>
          <th className="font-medium">By</th>
          <th className="font-medium">Left</th>
          <th className="font-medium">Why</th>
        </tr>
      </thead>
      <tbody>
        {moves.data?.map((m) => (
          <tr key={m.id} className="border-t border-hair" data-move={m.kind}>
            <td className="py-1 whitespace-nowrap">
              {momentText(m.at)}
              <span className="block text-ink-2">{m.who.name}</span>
            </td>
            <td>
              {KIND[m.kind]}
              <span className="block text-ink-2">
                {HALF[m.half]} <b className="num">{m.class}</b>
              </span>
            </td>
            <td className="num font-bold">{m.by > 0 ? `+${m.by}` : m.by}</td>
            <td className="num">{m.left}</td>
            <td className="text-ink-2">{m.reason}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
