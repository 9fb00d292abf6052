import { fileURLToPath } from 'node:url';
import type Axe from 'axe-core';
import type { BrowserContext, Page } from '@playwright/test';

/** By which rules a view is looked at: all of WCAG 2.2 A and AA, those of colours alone, or those that its width may decide. */
type Rules = 'all' | 'colours' | 'width';

/** What is wrong with a view: sideways scrolling of the page, or what axe finds. */
export async function faultsOf(page: Page, rules: Rules = 'all'): Promise<string[]> {
  const [violations, wide] = await page.evaluate(async (only) => {
    const { axe } = window as unknown as { axe: typeof Axe };
    const colours = ['color-contrast', 'link-in-text-block'];
    const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22a', 'wcag22aa'];
    const found = await axe.run(document, {
      resultTypes: ['violations'],
      runOnly: only === 'colours' ? { type: 'rule', values: colours } : { type: 'tag', values: tags },
      // the style sheets say the same at any width, and are fetched for one rule
      ...(only === 'all' ? {} : { preload: false }),
      ...(only === 'width'
        ? { rules: Object.fromEntries([...colours, 'css-orientation-lock'].map((id) => [id, { enabled: false }])) }
        : {}),
    });
    const { scrollWidth, clientWidth } = document.documentElement;
    return [
      found.violations.map(({ id, nodes }) => ({ id, where: nodes.map(({ target }) => target.join(' ')) })),
      scrollWidth - clientWidth,
    ] as const;
  }, rules);
  return [
    ...violations.map(({ id, where }) => `${id}: ${where.slice(0, 3).join(' | ')}`),
    ...(wide > 0 ? [`scrolls sideways by ${wide} px`] : []),
  ];
}
/** The program that looks, in every page of a context from its beginning: the pages themselves allow no script but their own. */
export const watched = async (context: BrowserContext): Promise<BrowserContext> => {
  await context.addInitScript({ path: fileURLToPath(import.meta.resolve('axe-core/axe.min.js')) });
  return context;
};
