import { Dialog as Radix } from 'radix-ui';

/** Where what opened a sheet is gone, as after a sheet that followed another, the page itself takes the focus. */
const focusSomewhere = () =>
  setTimeout(() => {
    if (document.activeElement === document.body) document.getElementById('content')?.focus();
  });

/** A sheet over the page: Esc closes it, focus stays inside and comes back. */
export function Dialog({
  open,
  onOpenChange,
  title,
  description,
  children,
  wide = false,
  closable = true,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  description?: string;
  children: React.ReactNode;
  wide?: boolean;
  /** False where it cannot be left without doing what it asks. */
  closable?: boolean;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 bg-ink/25 z-40" />
        <Radix.Content
          className={`fixed z-50 left-1/2 top-[8vh] -translate-x-1/2 max-h-[84vh] overflow-auto bg-sheet border-t-[1.5px] border-x border-b border-ink p-6 w-[min(94vw,var(--w))]`}
          style={{ '--w': wide ? '880px' : '560px' } as React.CSSProperties}
          onCloseAutoFocus={focusSomewhere}
          {...(description ? {} : { 'aria-describedby': undefined })}
        >
          <div className="flex items-start gap-4">
            <Radix.Title className="text-[18px] leading-6 font-bold flex-1">{title}</Radix.Title>
            {closable && <Radix.Close className="btn btn-small">Close</Radix.Close>}
          </div>
          {description && <Radix.Description className="text-ink-2 mt-1">{description}</Radix.Description>}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
