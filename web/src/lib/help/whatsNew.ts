/** What came last, the newest first: told in the help, in a sentence for those who work with it. */
export const WHATS_NEW: readonly { readonly on: string; readonly says: string }[] = [
  { on: 'December 2026', says: 'Help on each page is drawn, with the numbers of its steps.' },
  {
    on: 'December 2026',
    says: 'Ask people in by a link or a code; see what is on whose device; take somebody out, or leave.'
  },
  { on: 'December 2026', says: 'A page for visitors of the bush, read without an account where a steward opens it.' },
  {
    on: 'December 2026',
    says: 'Practice: trees two at a time, a tape round a drawn trunk, a crown with its free sides.'
  },
  {
    on: 'December 2026',
    says: 'Any stick held across a trunk is a way to measure it: the figure is put right for what lies behind.'
  },
  {
    on: 'December 2026',
    says: 'A copy of the example bush to play in, without an account where whoever runs the server allows it.'
  },
  {
    on: 'November 2026',
    says: 'Files are read as a conversation: each question once, and an import can be taken back whole.'
  },
  {
    on: 'November 2026',
    says: 'Was it tapped before? Scars are pointed at, and the hole is told from a scar that you can see.'
  },
  { on: 'November 2026', says: 'Lines at crossings, their looks and their walks; what stained wood costs in sap.' }
];
