/** A page with nothing to show but a sentence that says what to do. */
export function Notice({ title, text }: { title: string; text: string }) {
  return (
    <main className="mx-auto mt-24 w-[480px] bg-paper p-6">
      <div className="grad mb-4" />
      <h1 className="text-title font-bold text-dye">{title}</h1>
      <p className="mt-2 text-ink-2">{text}</p>
    </main>
  );
}
