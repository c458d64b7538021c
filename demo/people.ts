import demoAccounts from '../server/services/demo-accounts.json';

/** The collective of the demo; their accounts are offered on the sign-in page in demo mode. */
export const demoPeople = demoAccounts as readonly {
  readonly name: string;
  readonly password: string;
  readonly role: 'member' | 'keeper';
}[];
