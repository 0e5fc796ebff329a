import type { Member } from '$lib/server/accounts.ts';

declare global {
  /** names the core that this program was built with */
  const CORE: string;
  namespace App {
    interface Locals {
      member: Member | null;
      /** by which she is signed in; null for a program */
      session?: { readonly id: string; readonly device: string } | null;
      /** the request comes from a program with a member's key */
      byToken?: boolean;
      /** the address of the interface that was asked, as its description calls it: `patch /bushes/{bush}` */
      asks?: string;
    }
    interface Error {
      message: string;
      /** finds the entry in the server's log */
      id?: string;
    }
  }
}
