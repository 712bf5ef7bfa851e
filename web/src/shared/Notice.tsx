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
    <main className="flex-1 bg-paper">
      <div className="on-dye relative flex h-[160px] items-end bg-dye px-6 pb-4">
        <svg width="100%" height="160" aria-hidden="true" className="absolute inset-0">
          <line x1="0" x2="100%" y1="80" y2="80" className="k-centre" />
        </svg>
        <h1 className="relative text-title font-bold text-white">{title}</h1>
      </div>
      <div className="grad" />
      <div className="px-6 pt-4">
        <p className="text-lead">{text}</p>
        {back && (
          <Link to="/" className="btn btn-main mt-4 inline-flex items-center">
            To the floor
          </Link>
        )}
      </div>
    </main>
  );
}
