import { tree, type Described } from './specimens.ts';

export const OTHER_SPECIMENS: readonly Described[] = [
  tree('whiteAsh', 'stout blunt grey twigs, dark domed buds, tight diamond ridges', 'grown', 'bare', {
    arrangement: 'opposite',
    twigStoutness: 'stout',
    budShape: 'domed',
    budColour: 'black',
    barkGrown: 'diamonds',
    rub: 'holds'
  }),
  tree('whiteAsh', 'sapling with old tapholes beside it and pale lichen', 'young', 'bare', {
    arrangement: 'opposite',
    twigStoutness: 'stout',
    budShape: 'domed',
    barkYoung: 'diamonds',
    lichen: 'yes'
  }),
  tree('whiteAsh', 'in leaf: leaflets in pairs, single paddles in bunches', 'grown', 'leaf', {
    arrangement: 'opposite',
    leafForm: 'feather',
    keysHanging: 'paddle',
    barkGrown: 'diamonds'
  }),
  tree('blackAsh', 'swamp: soft corky bark that rubs to powder, nearly black buds', 'grown', 'bare', {
    arrangement: 'opposite',
    twigStoutness: 'stout',
    budShape: 'domed',
    budColour: 'black',
    barkGrown: 'corky',
    rub: 'chips',
    ground: 'wet'
  }),
  tree('horseChestnut', 'very stout twig, large sticky bud', 'grown', 'bare', {
    arrangement: 'opposite',
    twigStoutness: 'stout',
    budShape: 'sticky',
    budColour: 'brown'
  }),
  tree('horseChestnut', 'in leaf: leaflets in a fan', 'grown', 'leaf', { arrangement: 'opposite', leafForm: 'hand' }),
  tree('dogwood', 'small tree, bark in small square blocks, stalked buds', 'grown', 'bare', {
    arrangement: 'opposite',
    twigStoutness: 'slim',
    budShape: 'stalked',
    budGrouping: 'single',
    barkGrown: 'checkered'
  }),
  tree('redOak', 'crowd of pointed buds at the tip, hard flat ridges, does not peel', 'grown', 'bare', {
    arrangement: 'alternate',
    budGrouping: 'crowded',
    barkGrown: 'furrows',
    rub: 'holds'
  }),
  tree('basswood', 'lopsided red bud, furrowed bark', 'grown', 'bare', {
    arrangement: 'alternate',
    budShape: 'lopsided',
    budColour: 'red',
    barkGrown: 'furrows'
  }),
  tree('beech', 'smooth pale bark, long spear buds, dry leaves held', 'grown', 'bare', {
    arrangement: 'alternate',
    budShape: 'longSpear',
    barkGrown: 'smooth',
    barkTone: 'paleGrey',
    heldLeaves: 'many'
  }),
  tree('yellowBirch', 'bronze paper curls, wintergreen in the twig', 'grown', 'bare', {
    arrangement: 'alternate',
    barkGrown: 'papery',
    barkTone: 'bronze',
    twigSmell: 'wintergreen'
  }),
  tree('paperBirch', 'white, peels in sheets', 'grown', 'bare', {
    arrangement: 'alternate',
    barkGrown: 'papery',
    barkTone: 'white',
    rub: 'peels'
  }),
  tree('blackCherry', 'burnt-looking scales, bitter almond in the twig', 'grown', 'bare', {
    arrangement: 'alternate',
    barkGrown: 'burnt',
    barkTone: 'blackBrown',
    twigSmell: 'almond'
  }),
  tree('hophornbeam', 'fine shreds, very slim twigs', 'grown', 'bare', {
    arrangement: 'alternate',
    twigStoutness: 'slim',
    barkGrown: 'shreds',
    rub: 'peels'
  }),
  tree('hickory', 'shaggy plates, stout twigs, leaflets in pairs', 'grown', 'fall', {
    arrangement: 'alternate',
    twigStoutness: 'stout',
    barkGrown: 'shaggy',
    leafForm: 'feather'
  }),
  tree('aspen', 'young poplar: smooth greenish bark, easily mixed up with young maple', 'young', 'bare', {
    arrangement: 'alternate',
    barkYoung: 'greenish',
    budShape: 'sharpScaly',
    budColour: 'brown'
  }),
  tree('elm', 'lopsided dark buds, one alone, furrowed', 'grown', 'bare', {
    arrangement: 'alternate',
    budShape: 'lopsided',
    budColour: 'black',
    budGrouping: 'single',
    barkGrown: 'furrows'
  }),
  tree(
    'whiteAsh',
    'a maple wood’s ash in winter: maple keys in the snow under it, stout twigs, tight diamonds',
    'grown',
    'bare',
    {
      arrangement: 'opposite',
      keys: 'horseshoe',
      twigStoutness: 'stout',
      barkGrown: 'diamonds'
    }
  ),
  tree('whiteAsh', 'old ash, crown out of reach, a maple sapling beside it and maple keys under it', 'old', 'fall', {
    arrangement: 'opposite',
    twigsFrom: 'beside',
    budShape: 'sharpScaly',
    budColour: 'brown',
    keys: 'horseshoe',
    barkOld: 'diamonds'
  }),
  tree('buckthorn', 'nearly opposite twigs that end in a thorn, dark narrow buds, dark peeling bark', 'grown', 'bare', {
    arrangement: 'opposite',
    budGrouping: 'thorn',
    budColour: 'black',
    barkGrown: 'burnt',
    rub: 'peels'
  }),
  tree('buckthorn', 'young: level dashes on dark bark, black buds pressed to the twig', 'young', 'bare', {
    arrangement: 'opposite',
    barkYoung: 'dashes',
    budColour: 'black',
    budShape: 'sharpScaly',
    budGrouping: 'thorn'
  }),
  tree(
    'hophornbeam',
    'ironwood: bark in many thin upright shreds, very slim alternate twigs, a few dry leaves',
    'grown',
    'bare',
    {
      arrangement: 'alternate',
      twigStoutness: 'slim',
      budGrouping: 'single',
      barkGrown: 'shreds',
      heldLeaves: 'many'
    }
  ),
  tree('musclewood', 'smooth hard grey bark with ripples, slim alternate twigs, fine teeth', 'grown', 'leaf', {
    arrangement: 'alternate',
    twigStoutness: 'slim',
    leafForm: 'simple',
    leafMargin: 'fine',
    barkGrown: 'smooth'
  }),
  tree('planeTree', 'alternate, maple-like leaf, bark falls in flakes and leaves white patches', 'grown', 'leaf', {
    arrangement: 'alternate',
    leafForm: 'five',
    barkGrown: 'patches',
    barkTone: 'white'
  }),
  tree('viburnum', 'opposite, three-lobed leaf like a maple’s, downy below, berries', 'young', 'fall', {
    arrangement: 'opposite',
    leafForm: 'three',
    leafUnderside: 'velvet',
    budShape: 'longSpear',
    twigColour: 'grey',
    barkYoung: 'smoothBumps'
  })
];
