import { userFacing } from '@baumkin/core/errors';
import type { ColumnCause } from '@baumkin/core/measure';
import {
  formatOf,
  groupFaults,
  linesLeftOut,
  type FaultGroup,
  type ImportTold,
  UnreadableFile,
  type ReadOptions
} from '@baumkin/core/exchange';
import type { LengthUnit } from '@baumkin/core/units';

import { api, asked } from '$lib/client/api.ts';
import type { BushState } from '$lib/client/bush.svelte.ts';
import { decodeText } from '$lib/client/decode.ts';
import { keepDraft, readDraft } from '$lib/client/draft.ts';
import type { TreeLife } from '$lib/client/lives.ts';
import { preferences } from '$lib/client/preferences.svelte.ts';
import { asking } from '$lib/workers/asking.ts';
import { isOldWorkbook, isPacked } from '$lib/workers/unpack.ts';
import type { ImportPreview, ImportWorker } from '$lib/workers/import.worker.ts';

const MAX_BYTES = 7_000_000;
/** A file that takes longer to read is none of trees, or the device is too small for it, ms. */
const LONGEST_MS = 60_000;
/** So many bytes tell what a file is. */
const BEGINNING = 1000;

/** What is kept of the answers to a file, for the next one: what holds of the hand that writes them. */
type Habits = Pick<ImportTold, 'columns' | 'dates' | 'species'>;

/** What would explain a whole column that is off, as the reader takes it. */
const SIZES_ARE: Readonly<Record<ColumnCause, ReadOptions['sizesAre']>> = {
  girthAsDiameter: { quantity: 'girth' },
  diameterAsGirth: { quantity: 'diameter' },
  inchAsCm: { unit: 'in' },
  cmAsInch: { unit: 'cm' }
};

/**
 * A file on its way into the bush: read on this device and held against the book, its questions answered one after the other,
 * and then sent. Nothing is stored before that.
 */
export class Importing {
  fileName = $state('');
  unit = $state<LengthUnit>(preferences.units === 'metric' ? 'cm' : 'in');
  /** null: trees that the bush does not have are asked about where most of the file's trees are known */
  newTrees = $state<boolean | null>(null);
  told = $state.raw<ImportTold>({});
  preview = $state.raw<ImportPreview | null>(null);
  problem = $state('');
  busy = $state(false);
  /** the file where it is the archive of a whole bush: it is sent as it is, however large */
  archive = $state.raw<File | null>(null);
  /** the sheets of a workbook that hold anything, and which of them is read */
  sheets = $state.raw<readonly { readonly name: string; readonly text: string }[]>([]);
  sheet = $state(0);
  #text: string | null = null;
  #sizesAre: NonNullable<ReadOptions['sizesAre']> = {};

  readonly groups: readonly FaultGroup[] = $derived(this.preview ? groupFaults(this.preview.plan.bad) : []);
  /** What an answer mends, and what is to be mended in the file. */
  readonly questions = $derived(this.groups.filter(({ fault }) => fault !== 'cell'));
  readonly leftOut = $derived(this.preview ? linesLeftOut(this.preview.plan.bad) : 0);

  constructor(private readonly bush: BushState) {}

  async take(file: File | undefined): Promise<void> {
    this.preview = null;
    this.archive = null;
    this.problem = '';
    this.newTrees = null;
    this.sheets = [];
    this.#text = null;
    this.#sizesAre = {};
    if (!file) return;
    this.fileName = file.name;
    const beginning = await file.slice(0, BEGINNING).arrayBuffer();
    if (formatOf(decodeText(beginning)) === 'archive') {
      this.archive = file;
      return;
    }
    if (file.size > MAX_BYTES) {
      this.problem = `${file.name} is larger than 7 MB. Split it and bring the parts in; nothing was changed.`;
      return;
    }
    this.told = (await readDraft<Habits>(this.bush, 'import', this.bush.id))?.value ?? {};
    if (isOldWorkbook(new Uint8Array(beginning))) {
      this.problem = `${file.name} is a workbook of an old kind. Save it as .xlsx, .ods or CSV; nothing was changed.`;
      return;
    }
    if (isPacked(new Uint8Array(beginning))) {
      const bytes = new Uint8Array(await file.arrayBuffer());
      this.sheets = (await this.#work((worker) => worker.sheets(bytes))) ?? [];
      await this.#takeFirstOfTrees();
      return;
    }
    this.#text = decodeText(await file.arrayBuffer());
    await this.read();
  }

  /** Reads the first sheet that tells of trees: before it may stand a plan, or a page of notes. */
  async #takeFirstOfTrees(): Promise<void> {
    for (let i = 0; i < this.sheets.length && this.preview === null; i++) await this.takeSheet(i);
    if (this.preview === null && this.sheets.length > 1) await this.takeSheet(0);
  }

  /** Reads another sheet of the workbook. */
  async takeSheet(index: number): Promise<void> {
    this.sheet = index;
    this.#text = this.sheets[index]!.text;
    await this.read();
  }

  /** Answers a question, and reads the file again with it. */
  async tell(answer: ImportTold): Promise<void> {
    this.told = {
      ...this.told,
      ...answer,
      ...(answer.columns && { columns: { ...this.told.columns, ...answer.columns } }),
      ...(answer.species && { species: { ...this.told.species, ...answer.species } }),
      ...(answer.tags && { tags: { ...this.told.tags, ...answer.tags } })
    };
    await this.read();
  }

  /** Takes all sizes of the file for another quantity or unit than their heading says. */
  async tellColumn(cause: ColumnCause): Promise<void> {
    this.#sizesAre = { ...this.#sizesAre, ...SIZES_ARE[cause] };
    await this.read();
  }

  async read(): Promise<void> {
    if (this.#text === null) return;
    const text = this.#text;
    const { bush } = this;
    const waiting: TreeLife[] = [];
    const unsent = [...bush.byId.values()].filter(({ id }) => bush.outbox.byTree.has(id));
    for await (const life of bush.lives(unsent)) waiting.push(life);
    const told = $state.snapshot(this.told);
    const of = { bushId: bush.id, waiting: $state.snapshot(waiting) };
    const reading = { today: bush.today, defaultUnit: this.unit, sizesAre: this.#sizesAre, told };
    const planning = {
      today: bush.today,
      sizes: bush.expects.sizes ?? null,
      settings: $state.snapshot(bush.overview!.bush.settings),
      origin: bush.overview!.bush.origin ?? null,
      stands: bush.overview!.stands,
      newTrees: this.newTrees,
      told
    };
    this.preview = await this.#work((worker) => worker.read(text, reading, of, planning));
  }

  /** Lets a worker of its own do something with the file, and no longer than is bearable. @returns null where it could not */
  async #work<T>(ask: (worker: ReturnType<typeof asking<ImportWorker>>) => Promise<T>): Promise<T | null> {
    this.busy = true;
    this.problem = '';
    const worker = new Worker(new URL('../workers/import.worker.ts', import.meta.url), { type: 'module' });
    let late: ReturnType<typeof setTimeout> | undefined;
    try {
      const tooLong = new Promise<never>((_, reject) => {
        late = setTimeout(() => reject(new UnreadableFile('it takes too long to read.')), LONGEST_MS);
      });
      return await Promise.race([ask(asking<ImportWorker>(worker)), tooLong]);
    } catch (error) {
      const shown = userFacing(error);
      if (!shown) throw error;
      this.problem = `${this.fileName}: ${shown.message} Nothing was changed.`;
      return null;
    } finally {
      clearTimeout(late);
      worker.terminate();
      this.busy = false;
    }
  }

  /** Sends the file with all answers. @returns what came in; null where it could not be sent */
  async bring(): Promise<ImportPreview['plan']['counts'] | null> {
    const { columns, dates, species } = this.told;
    const body = {
      text: this.#text!,
      name: this.fileName.slice(0, 200),
      defaultUnit: this.unit,
      newTrees: this.newTrees,
      sizesAre: this.#sizesAre,
      told: $state.snapshot(this.told)
    };
    const answer = await this.#send(
      api.POST('/bushes/{bush}/import', { params: { path: { bush: this.bush.id } }, body })
    );
    if (!answer) return null;
    await keepDraft(this.bush, 'import', this.bush.id, $state.snapshot({ columns, dates, species }));
    await this.read();
    return answer.counts;
  }

  /** Reads the archive of a whole bush into this one. @returns how much came in; null where it could not be sent */
  async restore(): Promise<{ readonly trees: number; readonly records: number } | null> {
    // The file goes as it lies on the disk: nobody has to hold all of it.
    const asItIs = { bodySerializer: () => this.archive, headers: { 'content-type': 'application/json' } };
    const answer = await this.#send(
      api.POST('/bushes/{bush}/archive', {
        params: { path: { bush: this.bush.id } },
        ...asItIs,
        body: {} as never
      })
    );
    if (answer) this.archive = null;
    return answer;
  }

  async #send<T>(call: Parameters<typeof asked<T>>[0]): Promise<T | null> {
    this.busy = true;
    this.problem = '';
    try {
      const answer = await asked<T>(
        call,
        'The server did not answer as it should. Look whether it came in before you try again.'
      );
      if (answer.problem === null) await this.bush.refresh();
      else
        this.problem =
          answer.status === null
            ? 'The server cannot be reached. The file is still here; try again when there is a network.'
            : answer.problem;
      return answer.data;
    } finally {
      this.busy = false;
    }
  }
}
