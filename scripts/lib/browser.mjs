import { ensureChromium } from './packages.mjs';

/** Debian's Chromium, headless, with sound that needs no click. */
export async function openBrowser() {
  const { chromium } = await import('@playwright/test');
  return chromium.launch({ executablePath: ensureChromium(), args: chromiumArguments });
}

export const chromiumArguments = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
];
