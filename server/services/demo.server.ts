import { config } from '../config.server';
import accounts from './demo-accounts.json';

/** Accounts that the sign-in page offers: the demo's in demo mode, else none. */
export function offeredAccounts(): readonly { readonly name: string; readonly password: string }[] {
  return config.demo ? accounts : [];
}
