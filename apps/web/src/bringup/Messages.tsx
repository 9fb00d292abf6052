import type { BringupBoot } from '@underpass/contracts';
import { tenths } from './words.js';

const arrows = { sent: '→', received: '←', here: '' } as const;
const ways = { sent: 'sent', received: 'received', here: 'on the device' } as const;

/** What was sent, received and worked out, with where each thing stands. */
export function Messages({ messages }: Pick<BringupBoot, 'messages'>) {
  return (
    <section aria-labelledby="messages">
      <h2 id="messages" className="mt-6">
        Messages <span className="font-normal text-ink-3 ml-2">as sent, received and read by this device</span>
      </h2>
      <ol className="mt-1">
        {messages.map(({ atMs, way, text, place }, i) => (
          <li
            key={i}
            className="grid grid-cols-[48px_16px_minmax(0,1fr)] min-[700px]:grid-cols-[48px_16px_minmax(0,1fr)_32%] gap-x-2 border-b border-rule py-1"
          >
            <span className="text-right text-ink-3">{tenths(atMs)}</span>
            <span className="text-ink-3">
              <span aria-hidden>{arrows[way]}</span>
              <span className="sr-only">{ways[way]}</span>
            </span>
            <span className="[overflow-wrap:anywhere]">{text}</span>
            <span className="text-ink-3 [overflow-wrap:anywhere] max-[700px]:col-start-3">{place}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}
