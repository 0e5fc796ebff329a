import type { Member } from '$lib/server/accounts.ts';

declare global {
  namespace App {
    interface Locals {
      member: Member | null;
    }
    interface Error {
      message: string;
      /** finds the entry in the server's log */
      id?: string;
    }
  }
}
