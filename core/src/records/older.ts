/*
 * What was called otherwise once. Archives that stewards keep, devices that have not been opened for a season and programs
 * of members speak the older names; every door reads them under today's.
 */

type Named = Readonly<Record<string, unknown>>;

const OLDER_KINDS: Readonly<Record<string, string>> = { stature: 'heightAndCrown' };
const OLDER_FIELDS: Readonly<Record<string, Readonly<Record<string, string>>>> = { taphole: { school: 'strategy' } };
const OLDER_SETTINGS: Readonly<Record<string, string>> = {
  ladder: 'tapGuideline',
  ownLadder: 'ownGuideline',
  school: 'strategy',
  stockingSchool: 'stockingGuide'
};

/** A record under today's names; anything else as it is, for the schemas to refuse. */
export function fromOlderRecord(record: unknown): unknown {
  if (!isNamed(record) || typeof record.kind !== 'string') return record;
  const kind = OLDER_KINDS[record.kind] ?? record.kind;
  return { ...renamed(record, OLDER_FIELDS[kind] ?? {}), kind };
}

/** A bush's own numbers, all or some of them, under today's names. */
export function fromOlderSettings(settings: unknown): unknown {
  return isNamed(settings) ? renamed(settings, OLDER_SETTINGS) : settings;
}

const isNamed = (value: unknown): value is Named =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

/** Today's name goes before an older one where both are given. */
function renamed(value: Named, names: Readonly<Record<string, string>>): Named {
  const older = Object.keys(names).filter((name) => name in value);
  if (older.length === 0) return value;
  const result: Record<string, unknown> = { ...value };
  for (const name of older) {
    result[names[name]!] ??= value[name];
    delete result[name];
  }
  return result;
}
