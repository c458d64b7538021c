import type { Plugin } from 'vite';

/**
 * Takes away rules that ask whether the page holds an open dialog or a theme's radio button. daisyUI writes them for pages that scroll and
 * for themes chosen without a script; ours do neither, and a browser has to ask anew at every change anywhere in the page, which took more
 * than half of the time it spent on style while the arrow was held.
 * @param css minified
 */
export function withoutRootQuestions(css: string): string {
  return css
    .replace(/:is\(:root:has\(input\.theme-controller\[value=[^\]]*\]:checked\),(\[data-theme=[^\]]*\])\)/g, '$1')
    .replace(/:root:has\(input\.theme-controller\[value=[^\]]*\]:checked\)\{[^{}]*\}/g, '')
    .replace(/:root:has\([^{}]*\{--page-scroll-lock: ?;?\}/g, '');
}

/** As a plugin for the build. */
export const leanCss = (): Plugin => ({
  name: 'garnetfinch-lean-css',
  enforce: 'post',
  generateBundle(_, bundle) {
    for (const file of Object.values(bundle))
      if (file.type === 'asset' && file.fileName.endsWith('.css') && typeof file.source === 'string')
        file.source = withoutRootQuestions(file.source);
  },
});
