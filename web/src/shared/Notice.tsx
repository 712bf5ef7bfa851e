import { Link } from "react-router";

type NoticeProps = {
  title: string;
  text: string;
  /** Whether there is a floor to go back to: not before somebody has signed in. */
  back?: boolean;
};

/** A page with nothing to show but a sentence that says what to do, and the way back. */
export function Notice({ title, text, back = false }: NoticeProps) {
  return (
    <main className="mx-auto mt-24 w-[480px] bg-paper p-6">
      <div className="grad mb-4" />
      <h1 className="text-title font-bold text-dye">{title}</h1>
      <p className="mt-2 text-ink-2">{text}</p>
      {back && (
        <Link to="/" className="btn btn-main mt-4 inline-flex items-center">
          To the floor
        </Link>
      )}
    </main>
  );
}
