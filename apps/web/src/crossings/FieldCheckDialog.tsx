import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { CheckLinkView, CrossingBetween } from '@underpass/contracts';
import { languages, type Language } from '@underpass/contracts/texts';
import { useState } from 'react';
import { speak } from '../ui/say.js';
import { useNotice } from '../ui/Notice.js';
import { call } from '../api/client.js';
import { Dialog } from '../ui/Dialog.js';
import { Strip } from '../ui/Strip.js';
import { moment } from '../ui/times.js';
import { useAction } from '../ui/useAction.js';
import { checkLinkQueries } from './queries.js';

const stateWords: Record<CheckLinkView['state'], string> = {
  'not opened': 'Not opened yet',
  opened: 'Opened, not started',
  waiting: 'Waits for its turn',
  measuring: 'Measuring now',
  finished: 'Finished; the crossing shows its figures',
  stopped: 'Stopped; what was measured is kept',
};

/** Makes a link or a code for a person and endpoint, or for anyone at the location, and shows it used live. */
export function FieldCheckDialog({ between, onClose }: { between: CrossingBetween; onClose: () => void }) {
  const [who, setWho] = useState<'person' | 'anyone'>('person');
  const [hours, setHours] = useState('72');
  const [link, setLink] = useState<CheckLinkView | null>(null);
  const action = useAction();
  const live = useQuery(checkLinkQueries.one(link?.id));
  const state = live.data ?? link;
  const make = () =>
    action.run(async () => {
      const person = who === 'person' ? { person: between.person.id, endpoint: between.endpoint.id } : {};
      setLink(await call<CheckLinkView>('check-links', 'POST', { location: between.location.id, hours: Number(hours), ...person }));
    });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Send a field check"
      description="The person opens the link or scans the code; their browser measures the way from where they sit. Nothing is installed, it takes 40 seconds."
    >
      {!link && (
        <div className="grid grid-cols-[90px_1fr] gap-y-3 items-center">
          <span>For</span>
          <Strip
            label="For"
            options={['person', 'anyone']}
            value={who}
            onChange={setWho}
            words={{ person: `${between.person.name} on ${between.endpoint.name}`, anyone: `Anyone at ${between.location.name}` }}
          />
          <span>Good for</span>
          <Strip
            label="Good for"
            options={['4', '24', '72', '720']}
            value={hours}
            onChange={setHours}
            words={{ '4': '4 hours', '24': 'a day', '72': '3 days', '720': '30 days' }}
          />
          <p role="alert" className="col-start-2 text-brick empty:hidden">
            {action.fault}
          </p>
          <div className="col-start-2">
            <button className="btn btn-primary" onClick={() => void make()}>
              Make a link
            </button>
          </div>
        </div>
      )}
      {link && state && <MadeLink link={link} state={state} />}
    </Dialog>
  );
}

/** What to write to the person, in a language of theirs; the page that opens speaks it too. */
function CheckMessage({ link }: { link: CheckLinkView }) {
  const [language, setLanguage] = useState<Language | 'theirs'>('theirs');
  const spoken = language === 'theirs' ? 'en' : language;
  const { data: say } = useQuery({ queryKey: ['say', spoken], queryFn: () => speak(spoken), staleTime: Infinity });
  const url = `${link.url ?? ''}${language === 'theirs' ? '' : `?lang=${language}`}`;
  const text = say?.t('message.check', { url, until: say.day(link.expiresAt) }) ?? '';
  const notice = useNotice();
  return (
    <div className="mt-4">
      <label className="flex gap-2 items-center">
        Message in
        <select className="field" value={language} onChange={({ target }) => setLanguage(target.value as Language | 'theirs')}>
          <option value="theirs">English; the page speaks as their browser does</option>
          {Object.entries(languages).map(([each, name]) => (
            <option key={each} value={each}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <textarea
        readOnly
        lang={spoken}
        aria-label="Message"
        className="w-full h-[104px] mt-1.5 border border-rule-2 bg-sheet p-2 rounded-[2px] leading-[18px]"
        value={text}
        onFocus={(event) => event.target.select()}
      />
      <button
        type="button"
        className="btn btn-small mt-1"
        onClick={() =>
          navigator.clipboard.writeText(text).then(
            () => notice({ text: 'The message is copied.' }),
            () => notice({ text: 'The browser does not let this page copy. Select the message instead.' }),
          )
        }
      >
        Copy the message
      </button>
    </div>
  );
}

/** The link as text and as a code, and how far it is used. */
export function MadeLink({ link, state }: { link: CheckLinkView; state: CheckLinkView }) {
  const client = useQueryClient();
  const [copied, setCopied] = useState(false);
  return (
    <div className="grid grid-cols-1 min-[560px]:grid-cols-[1fr_180px] gap-6">
      <div>
        <label className="block text-ink-2" htmlFor="check-url">
          Link; it is shown this once
        </label>
        <div className="flex gap-2 mt-1">
          <input
            id="check-url"
            readOnly
            className="field mono flex-1 min-w-0"
            value={link.url}
            onFocus={(event) => event.target.select()}
          />
          <button
            className="btn"
            onClick={() => {
              void navigator.clipboard
                .writeText(link.url ?? '')
                .then(() => setCopied(true))
                .catch(() => document.querySelector<HTMLInputElement>('#check-url')?.select());
            }}
          >
            {copied ? 'Copied' : 'Copy'}
          </button>
        </div>
        <CheckMessage link={link} />
        <p role="status" className="mt-4 text-[15px]">
          <b>{state.revokedAt ? 'Taken back' : stateWords[state.state]}</b>
          {state.state === 'measuring' && state.step ? `: ${state.step}` : ''}
        </p>
        <p className="text-ink-3 mt-1">
          Opened {state.opened} {state.opened === 1 ? 'time' : 'times'}; good until {moment(link.expiresAt)}
        </p>
        {!state.revokedAt && (
          <button
            className="btn btn-small mt-4"
            onClick={() =>
              void call(`check-links/${link.id}`, 'DELETE').then(() => client.invalidateQueries({ queryKey: ['check-links'] }))
            }
          >
            Take the link back
          </button>
        )}
      </div>
      <div
        role="img"
        aria-label="The link as a code to scan"
        className="bg-[#fff] p-1 [&_svg]:w-full [&_svg]:h-auto"
        dangerouslySetInnerHTML={{ __html: link.qr ?? '' }}
      />
    </div>
  );
}
