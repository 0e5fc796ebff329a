import type { DrawnId } from './drawn.ts';

/** How a page's work is done: a drawing, and its steps. A number in the drawing is that of its step. */
export interface HowTo {
  readonly drawn: DrawnId;
  readonly steps: readonly string[];
}

/**
 * How one does it, on each page: what to do first, then what follows. Pages of stations by their address, a sheet of one tree by its
 * station. A page without an entry fails a test.
 */
export const HOW_TO = {
  '': {
    drawn: 'nextJob',
    steps: [
      'Do what stands under “The next best job”; the stations on the left say how much waits at each.',
      'Touch a tree on the map to go to it; “Work on the map” draws stands, paths and houses.',
      'Where trees lie in another order than you walk, look for a shorter walk below the stands.'
    ]
  },
  map: {
    drawn: 'map',
    steps: [
      'Click where a tree stands to bring it in, or give a bearing and a distance from a tree that is there.',
      'Draw round several trees to choose them; then mark, list or bring out what you chose.',
      'The choice below the map says by what the trees are coloured.'
    ]
  },
  'map/ground': {
    drawn: 'ground',
    steps: ['Lay a picture under the map and drag its corners until two places that you know lie where they are.']
  },
  exchange: {
    drawn: 'file',
    steps: [
      'Choose a file. Nothing is stored before you have seen what is new in it.',
      'Answer each question once; it holds for all its rows. What cannot be right is listed by what mends it.',
      'What a file brought in can be taken back whole.'
    ]
  },
  people: {
    drawn: 'invite',
    steps: [
      'Make an invitation and let the phone’s camera read the code. It ends by itself.',
      'Below each name stands which device holds the bush, and whether anything waits on it.',
      'Was a phone lost? Sign its owner out; what it had not sent stays on it.'
    ]
  },
  log: {
    drawn: 'twoNotes',
    steps: [
      'Choose a sort of change and look who made it, from what to what. What was done on a tree stands in its life.'
    ]
  },
  questions: {
    drawn: 'twoNotes',
    steps: ['Two people wrote what does not go together. Say which holds; the other stays in the tree’s life.']
  },
  walk: {
    drawn: 'walk',
    steps: [
      'Choose a round. Each tree asks for one thing; the next comes by itself.',
      'Everything is kept on the phone until there is a network.'
    ]
  },
  card: {
    drawn: 'card',
    steps: [
      'Print the card and take it along where no phone goes. What was written on it is typed in under Place, Cards.'
    ]
  },
  life: {
    drawn: 'life',
    steps: [
      'All that was done to this tree and seen on it, newest first. What was wrong is corrected or taken back here; nothing is lost.'
    ]
  },
  identify: {
    drawn: 'looks',
    steps: [
      'Choose what you see, beginning with the branching; leave out what you cannot tell.',
      'The page says what to look at next, and why the tree is settled or not yet.',
      'Whoever knows the tree from summer declares it, and says how she knows.'
    ]
  },
  'identify/all': {
    drawn: 'chosen',
    steps: ['Filter the trees, choose several, and settle them at once where you know them.']
  },
  'identify/clues': {
    drawn: 'shares',
    steps: [
      'How often each kind shows what, by a hundred trees. Where your bush differs, change a share: all verdicts follow.'
    ]
  },
  'identify/practice': {
    drawn: 'comesBack',
    steps: ['Say as much as the clues allow, and no more. What you miss comes again soon.']
  },
  measure: {
    drawn: 'tape',
    steps: [
      'Lay the tape round at breast height from the uphill side, and type what it says with its unit.',
      'Where the reading does not fit, look again before you stand by it.',
      'A second reading after three to five years tells what it grows.'
    ]
  },
  'measure/growth': {
    drawn: 'growth',
    steps: ['Trees that grow fast enough to cover a hole stand on one side of the line, the others on the other.']
  },
  'measure/plots': {
    drawn: 'plots',
    steps: ['Count the trees in a few plots where not each has a number; the page tells how sure the sum is.']
  },
  'measure/gauges': {
    drawn: 'stick',
    steps: ['Print a stick or a wedge for your own arm, and check the printed scale with a ruler.']
  },
  'measure/practice': {
    drawn: 'tape',
    steps: [
      'Move the tape with the arrow keys or a finger to where this trunk is to be measured.',
      'Read it at its zero, and write it down with its unit.',
      'A fault is told with its price: years of growth that the reading would hide.'
    ]
  },
  count: {
    drawn: 'crown',
    steps: [
      'Read the suggestion and its reasons, and accept it or decide otherwise.',
      'Look up at the crown first where the page asks for it: it decides more than the girth.',
      'Fewer holes need no reason; more do.'
    ]
  },
  'count/all': { drawn: 'chosen', steps: ['Accept many suggestions at once: you are asked once, with the numbers.'] },
  'count/decades': {
    drawn: 'schools',
    steps: ['Compare what several ways of tapping bring and leave over the coming decades.']
  },
  'count/habits': {
    drawn: 'schools',
    steps: ['Choose the rule that your bush goes by. The others stay in sight on each tree.']
  },
  place: {
    drawn: 'bark',
    steps: [
      'The mark on the bark is where the next hole goes; the sentence says it for whoever stands there with the drill.',
      'Point at old holes and scars that are not on the sheet: the place moves away from them.',
      'After drilling, write down the shavings. They teach where this tree’s brown wood lies.'
    ]
  },
  'place/round': {
    drawn: 'stretches',
    steps: ['Plan the round, hand stretches out to people, and print it or walk it with a phone.']
  },
  'place/cards': {
    drawn: 'card',
    steps: ['Type the cards of a day: tag, side, height, shavings. Enter goes to the next.']
  },
  'place/brown': {
    drawn: 'shavings',
    steps: ['Brown shavings against what was foretold. Where your bush is browner, take over what it teaches.']
  },
  'place/habits': { drawn: 'schools', steps: ['See what each way of placing loses over the seasons, and choose one.'] },
  'place/practice': {
    drawn: 'bark',
    steps: [
      'Drill where you believe that the wood is clear.',
      'Brown wood reaches far above and below an old hole, and little to its sides.',
      'The shavings say how it was. After ten seasons see what others lose.'
    ]
  },
  thin: {
    drawn: 'sides',
    steps: [
      'See whose crowns touch this one, and on which side.',
      'Mark what is to go. The page tells what each mark frees, and when it is enough for this time.',
      'Felling is for those who are trained for it.'
    ]
  },
  'thin/plan': {
    drawn: 'entry',
    steps: ['Set what one entry may take, and let the plan be worked out; change single trees by hand.']
  },
  'thin/years': {
    drawn: 'thirty',
    steps: ['Thirty years with the thinning and without, with what is uncertain about them.']
  },
  'thin/list': {
    drawn: 'paint',
    steps: ['Print the marking list with its map once it says who fells and who is kept away.']
  },
  'thin/young': {
    drawn: 'young',
    steps: ['Whether maples come up where light falls, who eats them, and what was planted.']
  },
  'thin/practice': {
    drawn: 'lateral',
    steps: ['Say which sides are blocked and how much of the fine branches is dead.']
  },
  season: {
    drawn: 'bucket',
    steps: ['What this tree gave and bears this season, and what is still to be done on it.']
  },
  'season/now': { drawn: 'frost', steps: ['Whether sap runs today and tomorrow, and what to do about it.'] },
  'season/drilling': {
    drawn: 'whenToDrill',
    steps: ['Choose the day on which the round begins; a week earlier or later has its price.']
  },
  'season/rounds': {
    drawn: 'bucket',
    steps: ['Write down what was emptied where. What is missing against the weather is asked about.']
  },
  'season/lines': { drawn: 'sag', steps: ['Draw the lines, level them, and see where they sag and what they need.'] },
  'season/sap': { drawn: 'boil', steps: ['Write down each boiling; the sums of sap, syrup and sugar follow.'] },
  'season/end': { drawn: 'pull', steps: ['Signs that the season ends, and which taps are to be pulled first.'] },
  'season/closing': { drawn: 'closing', steps: ['Go round once more in summer: which holes have closed.'] },
  'season/gear': { drawn: 'gear', steps: ['What the decided holes need in spouts, buckets and bits, with spares.'] },
  'season/others': { drawn: 'others', steps: ['Birches and walnuts that are tapped: their own time, their own sums.'] },
  'season/year': { drawn: 'year', steps: ['The year in one page, for whoever asks what came of it.'] },
  'season/weather': { drawn: 'frost', steps: ['Bring in days of frost and thaw, or let a service be asked.'] }
} as const satisfies Readonly<Record<string, HowTo>>;

/** How it is done on the page of an address within a bush. @param path what stands behind the bush's id: "place/round" */
export function howTo(path: string): HowTo {
  const [station = '', page = ''] = path.split('/');
  const all: Readonly<Record<string, HowTo>> = HOW_TO;
  const found = Object.hasOwn(all, `${station}/${page}`) ? all[`${station}/${page}`] : undefined;
  return found ?? (Object.hasOwn(all, station) ? all[station]! : HOW_TO['']);
}
