import type { Member } from '$lib/server/accounts.ts';

declare global {
  /** when this program was built */
  const BUILD: string;
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
