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

const tokens = new Map<string, string>();
if (typeof window !== 'undefined') {
  window.addEventListener('themechange', () => tokens.clear(), { capture: true });
  window.matchMedia('(prefers-color-scheme: dark)').addEventListener('change', () => window.dispatchEvent(new Event('themechange')));
}

/** Reads a token for drawing on a canvas; kept until the theme changes. @example readToken('--wave') // => '#6b5d50' */
export function readToken(name: string): string {
  let value = tokens.get(name);
  if (value === undefined) {
    value = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
    if (!value) return '#888';
    tokens.set(name, value);
  }
  return value;
}
