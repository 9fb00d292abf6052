/** Something that a list came to, to be opened. */
export function Told({ head, open, show, children }: { head: string; open: boolean; show: boolean; children: React.ReactNode }) {
  if (!show) return null;
  return (
    <details className="mt-3" open={open}>
      <summary className="cursor-pointer font-semibold">{head}</summary>
      <div className="mt-1 max-h-[320px] overflow-auto">{children}</div>
    </details>
  );
}
