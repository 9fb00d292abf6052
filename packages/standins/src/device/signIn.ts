import { Stopped } from './stopped.js';

const step = 'sign-in screen';
const mostTurns = 8;

/**
 * Signs the person of a device in at a portal, up to their list of resources; without a person only the page to sign in on is fetched.
 * @param portal address of the portal; without one nothing is done
 * @returns the title of the page that it came to, or null
 */
export async function signIn(portal: string | undefined, broker: string, person: string | undefined): Promise<string | null> {
  if (portal === undefined) return null;
  let cookie = '';
  const open = async (path: string, form?: Record<string, string>): Promise<string> => {
    let [at, sent] = [new URL(path, portal), form];
    for (let turn = 0; turn < mostTurns; turn++) {
      const response = await fetch(at, {
        redirect: 'manual',
        headers: { cookie, ...(sent ? { 'content-type': 'application/x-www-form-urlencoded' } : {}) },
        ...(sent ? { method: 'POST', body: new URLSearchParams(sent).toString() } : {}),
      }).catch(() => {
        throw new Stopped(step, `${broker} does not answer`);
      });
      cookie = response.headers.getSetCookie()[0]?.split(';')[0] ?? cookie;
      const onward = response.headers.get('location');
      const text = await response.text();
      if (response.status === 200) return text;
      if (response.status !== 303 || onward === null) throw new Stopped(step, `${broker}: ${titleOf(text) || response.status}`);
      [at, sent] = [new URL(onward, portal), undefined];
    }
    throw new Stopped(step, `${broker} leads in a circle`);
  };
  const first = await open(portal);
  if (!/name="person"/.test(first)) throw new Stopped(step, `no page to sign in on comes from ${broker}`);
  if (person === undefined) return titleOf(first);
  let page = await open(`${portal}/sign-in`, { person, password: 'any' });
  if (page.includes('Yes, it is me')) page = await open(`${portal}/guest`, {});
  // the stand-in shows the code that somebody would have on their telephone
  const code = /shows <strong>(\d{3}) (\d{3})/.exec(page);
  if (code) page = await open(`${portal}/second-factor`, { code: `${code[1]}${code[2]}` });
  return titleOf(page);
}

const titleOf = (page: string): string => /<title>([^<]*)<\/title>/.exec(page)?.[1] ?? '';
