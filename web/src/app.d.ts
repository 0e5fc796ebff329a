import type { Member } from '$lib/server/accounts.ts';

declare global {
  /** names the core that this program was built with */
  const CORE: string;
  namespace App {
    interface Locals {
      member: Member | null;
      /** the request comes from a program with a member's key */
      byToken?: boolean;
    }
    interface Error {
      message: string;
      /** finds the entry in the server's log */
      id?: string;
    }
  }
}
