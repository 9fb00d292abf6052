export type Theme = 'light' | 'dark';
export const currentTheme = (): Theme => (document.documentElement.dataset.theme === 'dark' ? 'dark' : 'light');

export function setTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
  try {
    localStorage.setItem('underpass.theme', theme);
  } catch {
    // storage may be closed to us; the theme then lasts for this page
  }
  dispatchEvent(new Event('underpass-theme'));
}
