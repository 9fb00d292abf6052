import type { Action } from './actions.js';

/** What a button is called, as a screen reader says it. */
const nameOf = (button: HTMLElement): string => (button.getAttribute('aria-label') ?? button.textContent).replace(/\s+/g, ' ').trim();

/** Every button of the page and of the line at its foot that is seen and may be pressed, in their order. */
function seen(): HTMLElement[] {
  const all = document.querySelectorAll<HTMLElement>('[role=status] button, #content button, #content a.btn');
  return [...all].filter((each) => each.checkVisibility() && !each.matches(':disabled, [role=option]') && nameOf(each).length > 1);
}

/** What the buttons of the page do, by their names. One name on several buttons does not say which is meant: it is left out. */
export function buttonsOfPage(): Action[] {
  const buttons = seen();
  const times = new Map<string, number>();
  for (const button of buttons) times.set(nameOf(button), (times.get(nameOf(button)) ?? 0) + 1);
  return buttons
    .map(nameOf)
    .filter((name) => times.get(name) === 1)
    .map((name) => ({
      name,
      run: () => {
        // sought anew: the page may have drawn it again since
        const button = seen().find((each) => nameOf(each) === name);
        button?.focus();
        button?.click();
      },
    }));
}
