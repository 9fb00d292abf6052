import { useDrafts, useKeepDraft } from '../api/drafts.js';
import { Dialog } from '../ui/Dialog.js';
import { Loading } from '../ui/States.js';
import { moment } from '../ui/times.js';
import { Consequence } from './Consequence.js';

/** A kept change of who sees what, worked out anew on the estate as it is now. */
export function DraftDialog({ id, onClose }: { id: string; onClose: () => void }) {
  const drafts = useDrafts();
  const { drop } = useKeepDraft();
  const draft = drafts.data?.find((each) => each.id === id);
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={draft ? draft.name : 'Draft'}
      description={draft ? `Kept by ${draft.createdBy}, ${moment(draft.createdAt)}. Worked out on the estate as it is now.` : ''}
      wide
    >
      {drafts.isPending && <Loading what="the draft" />}
      {drafts.data && !draft && <p>This draft is not kept any more: it was applied or dropped.</p>}
      {draft && (
        <Consequence
          kept
          change={draft.change}
          summary={draft.name}
          onApplied={() => {
            void drop(draft, true);
            onClose();
          }}
        />
      )}
    </Dialog>
  );
}
