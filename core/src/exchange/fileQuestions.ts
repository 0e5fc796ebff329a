import { speciesById } from '../identify/index.ts';
import { asMeant, mixedColumn, wholeColumnQuestion, type ColumnQuestion, type MixedColumn } from '../measure/index.ts';
import { effectiveRecords, tagKey } from '../records/index.ts';
import { BadCell } from './faults.ts';
import { LikelyTags } from './likelyTag.ts';
import { isNewSpecies, settledIn } from './newRecords.ts';
import type { ImportOptions, KnownTree } from './plan.ts';
import { toldOf } from './told.ts';
import type { Statement, StatementFile } from './statement.ts';

/** From this share of known tags on a file is about trees that the bush has. Working assumption. */
const MOSTLY_KNOWN = 0.5;

/** What a file as a whole, and the book, make doubtful of its rows; and what the steward said to that. */
export class FileQuestions {
  /** a whole column that seems to be another quantity or unit than its heading says */
  readonly column: ColumnQuestion | null;
  /** a part of a column that does; its sizes by their lines */
  readonly mixed: MixedColumn | null;
  /** what mistyped tags most likely mean, by themselves */
  readonly likelyTags = new Map<string, string>();
  readonly #tags: LikelyTags;
  readonly #off: ReadonlySet<number>;
  readonly #strange: boolean;

  constructor(
    file: StatementFile,
    private readonly byTag: ReadonlyMap<string, KnownTree>,
    private readonly options: ImportOptions
  ) {
    const told = options.told ?? {};
    const sizes = [...file.statements, ...file.waiting].flatMap(({ line, reading }) =>
      reading ? [{ ...reading, line, lot: reading.on }] : []
    );
    this.column = wholeColumnQuestion(sizes, options.sizes);
    // Where a whole column is in question its parts are not.
    const mixed = this.column || told.otherLot === 'asTheyStand' ? null : mixedColumn(sizes);
    this.mixed = mixed && { ...mixed, which: mixed.which.map((i) => sizes[i]!.line) };
    this.#tags = new LikelyTags(options.tags);
    this.#off = new Set(this.mixed?.which);
    const named = new Set([...file.statements, ...file.waiting].map(({ tag }) => tagKey(tag)));
    const here = [...named].filter((key) => byTag.has(key) || toldOf(told.tags, key) !== undefined).length;
    this.#strange = options.newTrees === null && here > 0 && here >= MOSTLY_KNOWN * named.size;
  }

  /** A statement as the steward said that it was meant. */
  meant(statement: Statement): Statement {
    const { tags, otherLot } = this.options.told ?? {};
    const tag = toldOf(tags, tagKey(statement.tag)) ?? statement.tag;
    const off = this.#off.has(statement.line) && otherLot !== undefined && otherLot !== 'asTheyStand';
    return {
      ...statement,
      tag,
      reading: off && statement.reading ? asMeant(statement.reading, otherLot) : statement.reading
    };
  }

  /** What is to be answered before anything of a statement is stored. */
  of(statement: Statement): BadCell[] {
    const { told = {} } = this.options;
    const asked: BadCell[] = [];
    if (this.#off.has(statement.line) && told.otherLot === undefined)
      asked.push(
        new BadCell(statement.reading!.quantity, 'has a size that looks like another quantity or unit.', 'otherLot')
      );
    const key = tagKey(statement.tag);
    const there = this.byTag.get(tagKey(toldOf(told.tags, key) ?? key));
    if (!there && this.#strange && toldOf(told.tags, key) === undefined) {
      const like = this.#tags.of(statement.tag);
      if (like !== null) this.likelyTags.set(statement.tag, like);
      const hint = like === null ? '' : ` Is it ${like}?`;
      const reason = `no tree of this bush has the tag "${statement.tag}".${hint}`;
      asked.push(new BadCell('tag', reason, 'strangeTag', statement.tag));
    }
    const against = there && told.speciesBy === undefined ? this.#against(statement, there) : null;
    if (against) asked.push(new BadCell('species', `is ${against}.`, 'otherSpecies', against));
    return asked;
  }

  /** Does the book have another species than a statement, and whose word holds? */
  bookHolds(statement: Statement, there: KnownTree | undefined): boolean {
    return this.options.told?.speciesBy === 'book' && there !== undefined && this.#against(statement, there) !== null;
  }

  #against(statement: Statement, { records }: KnownTree): string | null {
    const has = effectiveRecords(records);
    const settled = settledIn(has);
    if (!settled || !statement.species || settled.species === statement.species) return null;
    if (!isNewSpecies(statement, has)) return null;
    return `${speciesById(statement.species).name}, in the book ${speciesById(settled.species!).name}`;
  }
}
