import type { OpenSession } from '@underpass/contracts';
import { faults, type Fault } from './faults.js';
import type { Offered } from './reading.js';

/** Text as it may stand in a page. */
export const escaped = (text: string): string =>
  text.replace(/[&<>"']/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[c] ?? c);

const page = (title: string, body: string, refreshS?: number): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title>
${refreshS === undefined ? '' : `<meta http-equiv="refresh" content="${refreshS}">`}
<style>body{font:16px/24px sans-serif;color:#10323a;background:#f5f3ec;max-width:34rem;margin:4rem auto;padding:0 1.5rem}
h1{font-size:22px;margin:0 0 .5rem}label{display:block;margin:.8rem 0 .2rem}input{font:inherit;padding:.4rem;border:1px solid #74858a;width:16rem;max-width:100%}
input[type=checkbox]{width:auto}button{font:inherit;padding:.4rem 1rem;margin:.6rem .6rem 0 0;border:1px solid #10323a;background:none;color:inherit;cursor:pointer}
li{margin:.2rem 0;list-style:none}ul{padding:0}small{color:#50656a}p.note{border-top:1px solid #d2d0c5;margin-top:3rem;padding-top:.6rem;color:#50656a}
.desk{background:#dce9e4;padding:2rem;border:1px solid #0a6868}</style></head>
<body>${body}<p class="note">Stand-in portal of Underpass. It plays portal, directory and broker for trying things out; nothing behind it is real.</p></body></html>`;

const form = (action: string, inner: string): string => `<form method="post" action="${escaped(action)}">${inner}</form>`;

export interface SignInPage {
  base: string;
  portal: string;
  organisation: string;
  next: string;
  message?: string;
  /** A kiosk this browser may stand for, where a link for one was opened. */
  kiosk?: { endpoint: string };
}
export const signInPage = ({ base, portal, organisation, next, message, kiosk }: SignInPage): string =>
  page(
    portal,
    `<h1>${escaped(portal)}</h1><p>${escaped(organisation)}</p>${message ? `<p role="alert"><strong>${escaped(message)}</strong></p>` : ''}` +
      form(
        `${base}/sign-in`,
        `<input type="hidden" name="next" value="${escaped(next)}">
<label for="person">Your number</label><input id="person" name="person" autocomplete="username" required maxlength="64">
<label for="password">Password</label><input id="password" name="password" type="password" autocomplete="off" maxlength="200">
<br><small>Any password is taken here. Guests leave it empty: their own organisation asks for theirs.</small><br><button>Sign in</button>`,
      ) +
      (kiosk
        ? form(
            `${base}/sign-in`,
            `<input type="hidden" name="next" value="${escaped(next)}"><input type="hidden" name="kiosk" value="${escaped(kiosk.endpoint)}">
<p>This link is for a kiosk, which signs in by itself.</p><button>Let this browser be ${escaped(kiosk.endpoint)}</button>`,
          )
        : ''),
  );

export const guestPage = (base: string, organisation: string): string =>
  page(
    organisation,
    `<h1>Sign-in of ${escaped(organisation)}</h1><p>This page stands for the guest’s own organisation. The password stays there.</p>${form(`${base}/guest`, '<button>Yes, it is me</button>')}`,
  );

export const secondFactorPage = (base: string, code: string, limitS: number): string =>
  page(
    'Second factor',
    `<h1>Second factor</h1><p>Your phone shows <strong>${code.slice(0, 3)} ${code.slice(3)}</strong>. It is good for ${limitS} s.</p>` +
      form(
        `${base}/second-factor`,
        '<label for="code">Code</label><input id="code" name="code" inputmode="numeric" autocomplete="one-time-code" required maxlength="12"><br><button>Go on</button>',
      ),
  );

export const listPage = (base: string, name: string, offered: readonly Offered[]): string =>
  page(
    'Your resources',
    `<h1>Your resources, ${escaped(name)}</h1>` +
      (offered.length
        ? `<ul aria-label="Resources">${offered
            .map(
              ({ resource, publication }) =>
                `<li>${form(`${base}/broker`, `<input type="hidden" name="resource" value="${escaped(resource.id)}"><input type="hidden" name="publication" value="${escaped(publication.id)}"><button data-resource="${escaped(resource.id)}">${escaped(resource.name)}</button>`)}</li>`,
            )
            .join('')}</ul>`
        : '<p>There is nothing here for you.</p>') +
      form(`${base}/sign-out`, '<button>Sign out</button>'),
  );

export const choosePage = (base: string, sessions: readonly OpenSession[], wanted: string, nameOf: (resource: string) => string): string =>
  page(
    'Sessions left behind',
    `<h1>You have sessions elsewhere</h1><p>Which one do you want?</p><ul aria-label="Sessions">${sessions
      .map(
        (session) =>
          `<li>${form(`${base}/session`, `<input type="hidden" name="take" value="${escaped(session.id)}"><button>Take up ${escaped(nameOf(session.resource))}</button> <small>last used ${escaped(session.usedAt.slice(0, 16).replace('T', ' '))}${session.endpoint ? ` on ${escaped(session.endpoint)}` : ''}</small>`)}</li>`,
      )
      .join('')}</ul>${form(`${base}/session`, `<button>Start ${escaped(nameOf(wanted))} anew</button>`)}`,
  );

export const wakePage = (host: string): string =>
  page('Waking a host', `<h1>${escaped(host)} is asleep</h1><p role="status">It is being woken. This page goes on by itself.</p>`, 1);

export const sessionPage = (base: string, resource: string, person: string, host: string, how: string): string =>
  page(
    resource,
    `<h1>${escaped(resource)}</h1><div class="desk"><p>${escaped(how)} for ${escaped(person)} on the host ${escaped(host)}.</p><img src="${base}/picture.svg" alt="Stand-in picture of the session" width="320" height="120"></div>${form(`${base}/sign-out`, '<button>Sign out</button>')}`,
  );

export const problemPage = (title: string, text: string, base: string): string =>
  page(title, `<h1>${escaped(title)}</h1><p role="alert">${escaped(text)}</p><p><a href="${escaped(base)}/">Back to the sign-in</a></p>`);

export const faultsPage = (on: ReadonlySet<Fault>): string =>
  page(
    'Faults',
    `<h1>Faults of the stand-in portal</h1>${form(
      '/faults',
      `<ul>${faults.map(({ id, name }) => `<li><label><input type="checkbox" name="fault" value="${id}"${on.has(id) ? ' checked' : ''}> ${escaped(name)}</label></li>`).join('')}</ul><button>Set these faults</button>`,
    )}`,
  );

export const frontPage = (portals: readonly { id: string; name: string }[]): string =>
  page(
    'Portals',
    `<h1>Portals</h1><ul>${portals.map(({ id, name }) => `<li><a href="/${escaped(id)}/">${escaped(name)}</a></li>`).join('')}</ul><p><a href="/faults">Faults</a></p>`,
  );

export const picture = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 320 120"><rect width="320" height="120" fill="#0a6868"/><path d="M40 110V60a40 40 0 0 1 80 0v50" fill="none" stroke="#f5f3ec" stroke-width="8"/></svg>`;
