import { config } from '../config.server';
import accounts from './demo-accounts.json';

/** Accounts that the sign-in page offers: the demo's in demo mode, else none. */
export function offeredAccounts(): readonly { readonly name: string; readonly password: string }[] {
  return config.demo ? accounts : [];
}

/** Whether this is a demo account with the password that everybody can read; one that was changed is somebody's own. */
export const isDemoAccount = (name: string, password: string): boolean =>
  accounts.some((account) => account.name.toLowerCase() === name.toLowerCase() && account.password === password);

export const demoNames: readonly string[] = accounts.map(({ name }) => name);
