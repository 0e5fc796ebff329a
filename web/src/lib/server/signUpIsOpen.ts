import { env } from 'node:process';

/** May whoever comes make an account? Where the operator says `BAUMKIN_SIGN_UP=invited`, only those who were asked in. */
export const signUpIsOpen = (): boolean => env.BAUMKIN_SIGN_UP !== 'invited';
