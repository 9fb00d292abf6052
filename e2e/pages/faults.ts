import { fileURLToPath } from 'node:url';
import type Axe from 'axe-core';
import type { BrowserContext, Page } from '@playwright/test';

/** By which rules a view is looked at: all of WCAG 2.2 A and AA, those of colours alone, or those that its width may decide. */
type Rules = 'all' | 'colours' | 'width';
const colours = ['color-contrast', 'link-in-text-block'];
const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22a', 'wcag22aa'];

/** What is wrong with a view: sideways scrolling of the page, or what axe finds. */
export async function faultsOf(page: Page, rules: Rules = 'all'): Promise<string[]> {
  const without = (ids: readonly string[]) => Object.fromEntries(ids.map((id) => [id, { enabled: false }]));
  const found =
    rules === 'colours'
      ? []
      : await violations(page, {
          runOnly: { type: 'tag', values: tags },
          // the style sheets say the same at any width, and are fetched for one rule
          ...(rules === 'width' ? { preload: false, rules: without([...colours, 'css-orientation-lock']) } : { rules: without(colours) }),
        });
  if (rules !== 'width')
    found.push(
      ...(await violations(page, { preload: false, runOnly: { type: 'rule', values: colours } }, await page.evaluate(oneOfEachLook))),
    );
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
  return [...found, ...(wide > 0 ? [`scrolls sideways by ${wide} px`] : [])];
}

async function violations(page: Page, options: Axe.RunOptions, within?: string): Promise<string[]> {
  const found = await page.evaluate(
    async ([how, where]) => {
      const { axe } = window as unknown as { axe: typeof Axe };
      const context = where === undefined ? document : { include: [where] };
      return (await axe.run(context, { ...how, resultTypes: ['violations'] })).violations.map(({ id, nodes }) => ({
        id,
        where: nodes.map(({ target }) => target.join(' ')),
      }));
    },
    [options, within] as const,
  );
  return found.map(({ id, where }) => `${id}: ${where.slice(0, 3).join(' | ')}`);
}

/**
 * Marks one of all texts that look alike: of the same colour, size and weight on the same ground. What holds of one of them holds of all,
 * and a list has hundreds. @returns what selects them
 */
function oneOfEachLook(): string {
  const grounds = new Map<Element, string>();
  /** Everything that lies behind an element and shows through it, and whether it may lie over something else. */
  const groundOf = (element: Element | null): string => {
    if (!element) return '';
    let ground = grounds.get(element);
    if (ground === undefined) {
      const { backgroundColor: colour, backgroundImage: image, opacity, position } = getComputedStyle(element);
      const covers = colour.startsWith('rgb(') && image === 'none' && opacity === '1' && position === 'static';
      const shows = colour === 'rgba(0, 0, 0, 0)' && image === 'none' && opacity === '1' && position === 'static';
      ground = shows
        ? groundOf(element.parentElement)
        : `${colour} ${image} ${opacity} ${position}${covers ? '' : ` on ${groundOf(element.parentElement)}`}`;
      grounds.set(element, ground);
    }
    return ground;
  };
  const seen = new Set<string>();
  for (const element of document.querySelectorAll('*')) {
    element.removeAttribute('data-look');
    const says = [...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent?.trim());
    if (!(says || element.matches('input, select, textarea')) || element.getClientRects().length === 0) continue;
    const { color, fontSize, fontWeight, fontStyle, textDecorationLine: line } = getComputedStyle(element);
    const state = [element.closest('a') !== null, element.closest(':disabled, [aria-disabled=true]') !== null];
    const look = [color, fontSize, fontWeight, fontStyle, line, ...state, groundOf(element)].join();
    if (!seen.has(look)) element.setAttribute('data-look', '');
    seen.add(look);
  }
  return '[data-look]';
}
/** The program that looks, in every page of a context from its beginning: the pages themselves allow no script but their own. */
export const watched = async (context: BrowserContext): Promise<BrowserContext> => {
  await context.addInitScript({ path: fileURLToPath(import.meta.resolve('axe-core/axe.min.js')) });
  return context;
};
