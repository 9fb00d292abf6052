import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { AccessChange } from '@underpass/contracts';
import { call } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { Loading } from '../ui/States.js';
import { moment } from '../ui/times.js';
import { Consequence } from './Consequence.js';

interface AccessDraft {
  id: string;
  name: string;
  access: AccessChange | null;
  createdBy: string;
  createdAt: string;
}

/** A kept change of who sees what, worked out anew on the estate as it is now. */
export function DraftDialog({ id, onClose }: { id: string; onClose: () => void }) {
  const client = useQueryClient();
  const drafts = useQuery({ queryKey: ['drafts'], queryFn: () => call<AccessDraft[]>('drafts') });
  const draft = drafts.data?.find((each) => each.id === id);
  const drop = async () => {
    await call(`drafts/${id}`, 'DELETE');
    await client.invalidateQueries({ queryKey: ['drafts'] });
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={draft ? draft.name : 'Draft'}
      description={draft ? `Kept by ${draft.createdBy}, ${moment(draft.createdAt)}. Worked out on the estate as it is now.` : ''}
      wide
    >
      {drafts.isPending && <Loading what="the draft" />}
      {drafts.data && !draft?.access && <p>This draft is not kept any more: it was applied or dropped.</p>}
      {draft?.access && (
        <Consequence
          kept
          change={draft.access}
          summary={draft.name}
          onApplied={() => {
            void drop();
            onClose();
          }}
        />
      )}
    </Dialog>
  );
}
