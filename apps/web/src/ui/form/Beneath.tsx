/** Beneath a field: what is wrong with it, or what may stand there. */
export function Beneath({ id, fault, hint }: { id: string; fault: string | undefined; hint?: string | undefined }) {
  if (!(fault ?? hint)) return null;
  return (
    <p id={id} role={fault ? 'alert' : undefined} className={fault ? 'text-brick' : 'text-ink-3 text-[12.5px]'}>
      {fault ? (fault[0] as string).toUpperCase() + fault.slice(1) : hint}
    </p>
  );
}
