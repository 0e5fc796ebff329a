import { UserFacingError } from '@baumkin/core/errors';

/** What the server refuses, with the status that it answers with and what a person is told. */
const REFUSALS = {
  nameTaken: { status: 409, says: 'That sign-in name is taken.' },
  tooManyTokens: { status: 409, says: 'There are too many keys already. Take one back first.' },
  noPicture: { status: 422, says: 'That is neither a PNG nor a JPEG picture. Nothing was changed.' },
  unreadableFile: { status: 422, says: 'The file cannot be read. Nothing was changed.' },
  notHere: { status: 404, says: 'There is no such thing in this bush.' },
  takenBackAlready: { status: 409, says: 'This import was taken back already. Nothing was changed.' },
  notTakenBack: { status: 409, says: 'The import cannot be taken back. Nothing was changed.' },
  outdated: {
    status: 409,
    says: 'Somebody else has changed something here meanwhile. Nothing was overwritten; look at theirs and try again.'
  },
  beginAnew: { status: 410, says: 'These changes cannot be followed any further: begin anew with a snapshot.' },
  notEmpty: {
    status: 409,
    says: 'An archive is read into an empty bush, and this one holds trees, stands or other things that were drawn or written down. Make a new bush for it; nothing was changed.'
  },
  lastSteward: {
    status: 409,
    says: 'A bush without a steward helps nobody: make somebody else its steward first.'
  },
  founder: { status: 403, says: 'That is for whoever founded this bush, and for nobody else.' },
  founderStays: {
    status: 409,
    says: 'You founded this bush. Pass that on to another steward first, or give the bush up on the page of your bushes.'
  },
  notASteward: { status: 409, says: 'The founding is passed on to a steward: make them one first.' },
  atRest: {
    status: 403,
    says: 'This bush was given up: until it is gone it is only looked at. Whoever founded it can take it back.'
  },
  noSteward: { status: 403, says: 'Only a steward of this bush can do that.' },
  forAnAccount: { status: 403, says: 'You are a guest here. Come in with an account of your own.' },
  noExample: { status: 404, says: 'Whoever runs this server offers no example to play in.' },
  tooManyCopies: {
    status: 429,
    says: 'Many play here just now. Wait an hour and try again; nothing was made.'
  },
  noInvitation: {
    status: 410,
    says: 'This invitation has ended: it was used, taken back, or ran out. Ask whoever sent it for another.'
  },
  linkOver: { status: 410, says: 'This link was used, or has run out. Ask whoever runs the server for another.' },
  wrongPassword: { status: 403, says: 'That is not the password that holds now. Nothing was changed.' },
  signUpClosed: {
    status: 403,
    says: 'Accounts here are for those who were asked in. Ask a steward for an invitation.'
  },
  tooManyTries: { status: 429, says: 'That was tried very often. Wait a few minutes and try again; nothing was done.' },
  tooManyInvitations: { status: 409, says: 'There are 20 open invitations already. End one first.' }
} as const;
export type RefusalCode = keyof typeof REFUSALS;

/** The server's no to something that was well formed. */
export class Refused extends UserFacingError<RefusalCode> {
  /** @param says where more can be said than the code alone says */
  constructor(code: RefusalCode, says: string = REFUSALS[code].says) {
    super(code, says);
  }
}

/** The status that an error is answered with; null for one that nobody foresaw. */
export function statusOf(code: string): number | null {
  return code in REFUSALS ? REFUSALS[code as RefusalCode].status : null;
}
