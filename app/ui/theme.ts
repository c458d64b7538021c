export type Theme = 'daybreak' | 'dusk';
const cookieName = 'theme';

/** The theme a person chose, from the Cookie header; null follows the system. */
export function readThemeCookie(header: string | null): Theme | null {
  const value = new RegExp(`(?:^|; )${cookieName}=(daybreak|dusk)`).exec(header ?? '')?.[1];
  return (value as Theme | undefined) ?? null;
}

/** Switches the theme for this browser. */
export function setTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
  document.cookie = `${cookieName}=${theme}; path=/; max-age=31536000; samesite=lax`;
  window.dispatchEvent(new Event('themechange'));
}

export function currentTheme(): Theme {
  return (
    (document.documentElement.dataset.theme as Theme | undefined) ??
    (window.matchMedia('(prefers-color-scheme: dark)').matches ? 'dusk' : 'daybreak')
  );
}

/** Reads a token for drawing on a canvas. @example readToken('--wave') // => '#6b5d50' */
export function readToken(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#888';
}
