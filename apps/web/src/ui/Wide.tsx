/** What is wider than a narrow page scrolls within itself, with the keyboard too. */
export function Wide({ label, children, className = '' }: { label: string; children: React.ReactNode; className?: string }) {
  return (
    <div role="region" aria-label={label} tabIndex={0} className={`relative overflow-x-auto max-w-full ${className}`}>
      {children}
    </div>
  );
}
