import type { Station } from '@baumkin/core/records';
import type { Component } from 'svelte';

type Lazy<Props extends Record<string, unknown> = Record<string, never>> = () => Promise<{ default: Component<Props> }>;
/** A sheet of one tree. */
export type Sheet = Lazy<{ treeId: string }>;

/** What a station is made of: the sheet of one tree, and its pages for all of them. */
export interface StationPages {
  readonly sheet: Sheet;
  /** what the tab of the sheet is called */
  readonly one: string;
  /** the page on which it opens, where it is not the sheet of a tree */
  readonly home?: string;
  readonly pages: readonly { readonly slug: string; readonly name: string; readonly load: Lazy }[];
}

/** The pages of the stations: their tabs and routes come from here. A new page is a line. */
export const PAGES: Readonly<Record<Station, StationPages>> = {
  identify: {
    sheet: () => import('../identify/IdentifySheet.svelte'),
    one: 'One tree',
    pages: [
      { slug: 'all', name: 'All trees', load: () => import('../identify/AllTrees.svelte') },
      { slug: 'clues', name: 'Clue table', load: () => import('../identify/ClueTablePage.svelte') },
      { slug: 'practice', name: 'Practice', load: () => import('../identify/Practice.svelte') }
    ]
  },
  measure: {
    sheet: () => import('../measure/MeasureSheet.svelte'),
    one: 'One tree',
    pages: [
      { slug: 'growth', name: 'Growth', load: () => import('../measure/GrowthPage.svelte') },
      { slug: 'plots', name: 'Plots', load: () => import('../measure/PlotsPage.svelte') },
      { slug: 'gauges', name: 'Gauges', load: () => import('../measure/GaugesPage.svelte') },
      { slug: 'practice', name: 'Practice', load: () => import('../measure/MeasuringPractice.svelte') }
    ]
  },
  count: {
    sheet: () => import('../count/CountSheet.svelte'),
    one: 'One tree',
    pages: [
      { slug: 'all', name: 'All trees', load: () => import('../count/WholeBush.svelte') },
      { slug: 'decades', name: 'Decades', load: () => import('../count/DecadesPage.svelte') },
      { slug: 'habits', name: 'Habits', load: () => import('../count/TappingPolicyPage.svelte') }
    ]
  },
  place: {
    sheet: () => import('../place/PlaceSheet.svelte'),
    one: 'One trunk',
    pages: [
      { slug: 'round', name: 'Tapping round', load: () => import('../place/RoundPage.svelte') },
      { slug: 'cards', name: 'Cards', load: () => import('../place/CardsPage.svelte') },
      { slug: 'brown', name: 'Brown wood', load: () => import('../place/BrownPage.svelte') },
      { slug: 'habits', name: 'Ways of placing', load: () => import('../place/StrategiesPage.svelte') },
      { slug: 'practice', name: 'Practice trunk', load: () => import('../place/PracticePage.svelte') }
    ]
  },
  thin: {
    sheet: () => import('../thin/ThinSheet.svelte'),
    one: 'One crown',
    pages: [
      { slug: 'plan', name: 'The plan', load: () => import('../thin/PlanPage.svelte') },
      { slug: 'years', name: 'Thirty years', load: () => import('../thin/YearsPage.svelte') },
      { slug: 'list', name: 'Marking list', load: () => import('../thin/ListPage.svelte') },
      { slug: 'young', name: 'Next generation', load: () => import('../thin/YoungPage.svelte') },
      { slug: 'practice', name: 'Practice crown', load: () => import('../thin/CrownPractice.svelte') }
    ]
  },
  season: {
    sheet: () => import('../season/TreeSeason.svelte'),
    one: 'One tree',
    home: 'now',
    pages: [
      { slug: 'now', name: 'Now', load: () => import('../season/NowPage.svelte') },
      { slug: 'drilling', name: 'When to drill', load: () => import('../season/DrillingPage.svelte') },
      { slug: 'rounds', name: 'Rounds', load: () => import('../season/RoundsPage.svelte') },
      { slug: 'lines', name: 'Lines', load: () => import('../season/LinesPage.svelte') },
      { slug: 'sap', name: 'Sap and syrup', load: () => import('../season/SapPage.svelte') },
      { slug: 'end', name: 'End', load: () => import('../season/EndPage.svelte') },
      { slug: 'closing', name: 'Closing', load: () => import('../season/ClosingPage.svelte') },
      { slug: 'gear', name: 'Gear', load: () => import('../season/GearPage.svelte') },
      { slug: 'others', name: 'Birch and walnut', load: () => import('../season/OthersPage.svelte') },
      { slug: 'year', name: 'The year', load: () => import('../season/YearPage.svelte') },
      { slug: 'weather', name: 'Weather', load: () => import('../season/WeatherPage.svelte') }
    ]
  }
};

/** The address of a station, at a tree where it opens on one. */
export function stationHref(bushId: string, station: Station, treeId: string | null): string {
  const { home } = PAGES[station];
  return `/bush/${bushId}/${station}${home ? `/${home}` : treeId ? `/${treeId}` : ''}`;
}
