const NAME = 'UserFacingError';

/** An error whose message a person is shown as it is, with a code for programs. */
export class UserFacingError<Code extends string = string> extends Error {
  constructor(
    readonly code: Code,
    message: string
  ) {
    super(message);
    // A message between threads keeps the name of an error and not its class.
    this.name = `${NAME}: ${code}`;
  }
}

/** Code and message of an error that may be shown, also after it came out of a worker; null for every other one. */
export function userFacing(error: unknown): { readonly code: string; readonly message: string } | null {
  if (!(error instanceof Error) || !error.name.startsWith(`${NAME}: `)) return null;
  return { code: error.name.slice(NAME.length + 2), message: error.message };
}
