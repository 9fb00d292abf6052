import { useQuery } from '@tanstack/react-query';
import type { Applied, PublishPlan } from '@underpass/contracts';
import { call } from '../api/client.js';
import { useCanEdit } from '../api/session.js';
import { Failed, Loading } from '../ui/States.js';
import { useAction } from '../ui/useAction.js';
import { bringupQueries } from './queries.js';

const words = { added: 'new', changed: 'changed', removed: 'goes', same: 'as it is' } as const;
const forWhom = ({ layer, target }: PublishPlan['files'][number]) => (layer === 'organisation' ? 'everybody' : `${layer} ${target}`);

/** The configuration files that the settings come to, beside what is published, and publishing them as one change. */
export function Publishing() {
  const canEdit = useCanEdit();
  const answer = useQuery(bringupQueries.plan());
  const { busy, fault, run } = useAction();
  if (answer.isPending) return <Loading what="what would be published" />;
  if (!answer.data) return <Failed what="What would be published" error={answer.error} onRetry={() => void answer.refetch()} />;
  const { files, broker, version } = answer.data;
  const others = files.filter(({ does }) => does !== 'same');
  const publish = () =>
    run(async () => {
      const applied = await call<Applied>('bringup/published', 'POST', { seen: version });
      const text = `Published: ${others.length} configuration ${others.length === 1 ? 'file' : 'files'}. Devices fetch them at their next start.`;
      return { text, applied, takenBack: 'Taken back: devices fetch the files from before.' };
    });
  return (
    <section aria-labelledby="publishing" className="mt-8">
      <h2 id="publishing">Files that the settings come to</h2>
      <p className="text-ink-2 max-w-[72ch]">
        {others.length === 0
          ? `All ${files.length} are published as the settings are now.`
          : `${others.length} of ${files.length} differ from what is published. All are written at once: no device sees half of it.`}
        {broker !== null && ` Devices sign in at ${broker}.`}
      </p>
      {others.length > 0 && (
        <ul className="mt-2">
          {others.map((file) => (
            <li key={file.id} className="border-b border-rule">
              <details>
                <summary className="py-1.5 min-h-[24px] cursor-pointer">
                  <span className="font-semibold">{forWhom(file)}</span> <span className="text-ink-3 ml-2">{words[file.does]}</span>
                </summary>
                <div className="grid gap-x-6 min-[700px]:grid-cols-2 pb-3">
                  {file.before !== null && <Text name="published" text={file.before} />}
                  {file.after !== null && <Text name="as the settings are now" text={file.after} />}
                </div>
              </details>
            </li>
          ))}
        </ul>
      )}
      {canEdit && others.length > 0 && (
        <button className="btn btn-primary mt-3" disabled={busy} onClick={() => void publish()}>
          Publish {others.length === 1 ? 'this file' : `these ${others.length} files`}
        </button>
      )}
      {fault && (
        <p role="alert" className="text-brick mt-2">
          {fault}
        </p>
      )}
    </section>
  );
}

function Text({ name, text }: { name: string; text: string }) {
  return (
    <div className="min-w-0">
      <p className="text-ink-3">{name}</p>
      <pre className="font-mono text-[12.5px] whitespace-pre-wrap [overflow-wrap:anywhere]">{text}</pre>
    </div>
  );
}
