import {
  bushRecordSchema,
  BUSH_RECORD_KINDS,
  baseMapFitSchema,
  bushSettingsSchema,
  RECORD_KINDS,
  recordSchema,
  roleSchema,
  siteFeatureSchema,
  standSchema,
  treeSchema
} from '@baumkin/core/records';
import { archiveSchema, FAULTS } from '@baumkin/core/exchange';
import { z } from 'zod';

import type { KeptOverview, Overview } from '../client/overview.ts';
import { devicesSchema } from './devices.ts';
import { requests } from './requests.ts';
import { newTokenSchema } from './tokens.ts';
import { weatherSchema } from './weather/index.ts';

/*
 * The interface in one table: what each address says, takes and gives. Its description (OpenAPI 3.1) is made from it, and so
 * are the types of the client that the pages use. Every schema in it is the one that the server checks by.
 */

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
export interface Operation {
  readonly says: string;
  readonly takes?: SchemaName;
  /** what is asked for in the address after a question mark */
  readonly asks?: Readonly<Record<string, string>>;
  readonly gives?: SchemaName;
  /** content types of an answer that is a file */
  readonly file?: readonly string[];
  /** the role that it needs */
  readonly needs?: 'steward' | 'crew' | 'viewer';
  readonly status?: 200 | 201 | 204;
}

const outcomes = z.object({
  outcomes: z.array(
    z.object({
      id: z.uuid().nullable(),
      status: z.enum(['stored', 'already', 'refused']),
      reason: z.string().optional()
    })
  )
});
const versioned = z.object({ version: z.number().int() });
const members = z.object({
  members: z.array(
    z.object({
      id: z.uuid(),
      displayName: z.string(),
      signInName: z.string(),
      role: roleSchema,
      founder: z.boolean().describe('whose role nobody else changes')
    })
  )
});
const invitations = z.array(
  z.object({
    id: z.uuid(),
    role: roleSchema,
    note: z.string(),
    forMany: z.boolean(),
    by: z.string(),
    expiresAt: z.iso.datetime(),
    open: z.boolean(),
    joined: z.array(z.string())
  })
);
const imported = z.object({
  counts: z.object({
    newTrees: z.number().int(),
    grown: z.number().int(),
    unchanged: z.number().int(),
    readings: z.number().int(),
    holes: z.number().int(),
    determinations: z.number().int(),
    places: z.number().int(),
    remarks: z.number().int()
  }),
  bad: z.array(
    z.object({
      line: z.number().int(),
      column: z.string().nullable(),
      reason: z.string(),
      cells: z.array(z.string()),
      fault: z.enum(FAULTS),
      word: z.string().nullable()
    })
  ),
  question: z.unknown().nullable(),
  mixed: z.unknown().nullable()
});
const note = z.object({ id: z.uuid(), name: z.string(), mayWrite: z.boolean(), expiresAt: z.iso.datetime() });
const registered = z.object({ id: z.uuid(), walkOrder: z.number(), tree: treeSchema.nullable() });
const bushHead = z.object({
  name: z.string(),
  settings: bushSettingsSchema,
  version: z.number().int(),
  origin: z.object({ lat: z.number(), lon: z.number() }).nullable(),
  goneAt: z.iso.datetime().nullable().describe('it was given up, is only looked at, and is gone after this'),
  baseMap: baseMapFitSchema.nullable()
});
const people = z.array(z.object({ id: z.uuid(), name: z.string(), showsHoles: z.boolean() }));
const number = z.number().int().min(0);
const treeLine = treeSchema.loose().describe('the line of a tree: what is derived from its records stands beside it');

const glance = z.looseObject({
  trees: z.array(treeLine),
  stands: z.array(standSchema),
  features: z.array(siteFeatureSchema)
});

export const SCHEMAS = {
  Record: recordSchema,
  BushRecord: bushRecordSchema,
  Stand: standSchema,
  Feature: siteFeatureSchema,
  BaseMapFit: baseMapFitSchema,
  Tree: treeLine,
  Archive: archiveSchema,
  RecordBatch: requests.records.extend({
    records: z
      .array(z.union([recordSchema, bushRecordSchema]))
      .min(1)
      .max(500)
  }),
  Outcomes: outcomes,
  SettingsChange: requests.settings,
  BushChange: requests.bush,
  Walk: requests.walk,
  StandChange: requests.stand,
  FeatureChange: requests.feature,
  Deletion: requests.deletion,
  BaseMapChange: requests.baseMap,
  RoleChange: requests.role,
  Founding: requests.founding,
  OwnFigures: requests.ownFigures,
  Import: requests.import,
  Imported: imported,
  Imports: z.object({
    imports: z.array(
      z.object({
        id: z.uuid(),
        name: z.string(),
        at: z.iso.datetime(),
        by: z.string(),
        counts: z.record(z.string(), z.number().int()),
        takenBack: z.boolean()
      })
    )
  }),
  ImportTakenBack: z.object({
    records: z.number().int(),
    trees: z.number().int(),
    treesThatStay: z.number().int()
  }),
  Log: z.object({
    entries: z.array(
      z.object({ id: number, at: z.iso.datetime(), by: z.string(), kind: z.string(), says: z.string() })
    ),
    more: z.boolean()
  }),
  Restored: z.object({
    trees: z.number().int(),
    records: z.number().int(),
    name: z.string().describe('of the bush, as the archive calls it')
  }),
  Versioned: versioned,
  Members: members,
  NewInvitation: requests.invitation,
  Invited: z.object({ code: z.string().describe('the link is /join/ and this; told this once'), invitations }),
  Invitations: z.object({ invitations }),
  Held: z.object({
    held: z.array(
      z.object({
        memberId: z.uuid(),
        device: z.string(),
        behind: z.number().int().describe('changes that it has not been told of'),
        waiting: z.number().int().describe('records that waited there to be sent'),
        seenAt: z.iso.datetime(),
        signedIn: z.boolean()
      })
    )
  }),
  Bushes: z.object({
    bushes: z.array(z.object({ id: z.uuid(), name: z.string(), role: z.string() })),
    example: z.string().nullable().describe('the bush of which one can have a copy to play in')
  }),
  Overview: glance,
  Kept: glance,
  Life: z.object({ records: z.array(recordSchema) }),
  Changes: z.object({
    role: roleSchema.describe('of whoever asks'),
    memberId: z.uuid().describe('of whoever asks'),
    today: z.iso.date(),
    season: number,
    feed: z.uuid().describe('another one where all has to be begun anew'),
    to: number.describe('ask for what came after this next'),
    last: number.describe('of the last change: there is more where it is above `to`'),
    trees: z.array(registered).describe('null for a tree that was taken out of the registry'),
    records: z.array(recordSchema),
    bushRecords: z.array(bushRecordSchema),
    stands: z.array(z.object({ id: z.uuid(), stand: standSchema.nullable() })),
    features: z.array(z.object({ id: z.uuid(), feature: siteFeatureSchema.nullable() })),
    walk: z
      .array(z.object({ id: z.uuid(), walkOrder: z.number() }))
      .nullable()
      .describe('the steps of all trees on the walk; null where they are the old ones'),
    bush: bushHead.nullable(),
    people: people.nullable()
  }),
  Snapshot: z.object({
    feed: z.uuid(),
    number: number.describe('what came after it comes from the changes'),
    parts: number,
    ready: number.describe('parts from 0 to this one, itself not included, can be had'),
    trees: number
  }),
  SnapshotPart: z.object({
    whole: bushHead
      .extend({
        people,
        stands: z.array(standSchema),
        features: z.array(siteFeatureSchema),
        damaged: z.array(z.unknown()),
        bushRecords: z.array(bushRecordSchema)
      })
      .optional()
      .describe('in part 0'),
    lives: z
      .array(registered.extend({ records: z.array(recordSchema) }))
      .optional()
      .describe('in all other parts: trees in walking order')
  }),
  Devices: z.object({ devices: devicesSchema }),
  Weather: weatherSchema,
  NewToken: newTokenSchema,
  Token: z.object({ token: z.string(), note }),
  Tokens: z.object({ tokens: z.array(note) }),
  Problem: z.object({ message: z.string() })
} as const;
export type SchemaName = keyof typeof SCHEMAS;

const FILES = ['text/csv', 'application/json', 'application/zip', 'application/geo+json', 'application/gpx+xml'];

export const PATHS = {
  '/bushes': { get: { says: 'The bushes that you belong to', gives: 'Bushes' } },
  '/bushes/{bush}': {
    get: {
      says: 'The bush at a glance: settings, stands, and a line for every tree, told for today',
      gives: 'Overview'
    },
    patch: {
      says: 'Name it anew, or say where on earth it lies',
      takes: 'BushChange',
      gives: 'Versioned',
      needs: 'steward'
    }
  },
  '/bushes/{bush}/lines': {
    get: {
      says: 'The same as devices keep it: what hangs on the day, diameter, growth and questions, is left to be told from the readings in each line',
      gives: 'Kept'
    }
  },
  '/bushes/{bush}/records': {
    post: {
      says: `File records of work (${[...RECORD_KINDS, ...BUSH_RECORD_KINDS].join(', ')}). Ids are made by whoever writes; sending twice stores once. Each is answered for itself: what its writer’s role may not write is refused`,
      takes: 'RecordBatch',
      gives: 'Outcomes'
    }
  },
  '/bushes/{bush}/changes': {
    get: {
      says: 'What changed in the bush after one number of its feed, in pages; 304 to a matching If-None-Match where nothing did, 410 where you have to begin anew with a snapshot',
      asks: {
        feed: 'the feed of your number',
        after: 'the number up to which you know',
        waiting: 'how many records wait to be sent where you are; may be left out'
      },
      gives: 'Changes'
    }
  },
  '/bushes/{bush}/events': {
    get: {
      says: 'Server-sent events: `changed`, with the feed and the number of its last change',
      file: ['text/event-stream']
    }
  },
  '/bushes/{bush}/snapshot': {
    get: {
      says: 'The whole bush at one number, to begin with: how many parts it has, and how many are ready',
      gives: 'Snapshot'
    }
  },
  '/bushes/{bush}/snapshot/{number}/{part}': {
    get: { says: 'A part of a snapshot', gives: 'SnapshotPart' }
  },
  '/bushes/{bush}/trees/{tree}': { get: { says: 'Everything recorded of one tree', gives: 'Life' } },
  '/bushes/{bush}/settings': {
    patch: { says: 'Change the bush’s own numbers', takes: 'SettingsChange', gives: 'Versioned', needs: 'steward' }
  },
  '/bushes/{bush}/walk': {
    put: { says: 'Take a new walking order', takes: 'Walk', status: 204, needs: 'steward' }
  },
  '/bushes/{bush}/weather': {
    get: {
      says: 'What the weather services and thermometers that the server knows say, and what is wrong with each that says nothing',
      asks: { from: 'the first day that is wanted: 2027-02-01' },
      gives: 'Weather',
      needs: 'crew'
    }
  },
  '/bushes/{bush}/stands/{stand}': {
    put: { says: 'Draw a stand, or another shape of it', takes: 'StandChange', gives: 'Versioned', needs: 'steward' },
    delete: { says: 'Take a stand away; its trees stay', takes: 'Deletion', gives: 'Versioned', needs: 'steward' }
  },
  '/bushes/{bush}/features/{feature}': {
    put: {
      says: 'Draw a building, path, line, water, fence or way in',
      takes: 'FeatureChange',
      gives: 'Versioned',
      needs: 'steward'
    },
    delete: { says: 'Take it away', takes: 'Deletion', gives: 'Versioned', needs: 'steward' }
  },
  '/bushes/{bush}/base-map': {
    get: { says: 'The picture under the map', file: ['image/png', 'image/jpeg'] },
    put: { says: 'Lay a picture under the map', takes: 'BaseMapChange', gives: 'BaseMapFit', needs: 'steward' },
    delete: { says: 'Take the picture away', status: 204, needs: 'steward' }
  },
  '/bushes/{bush}/members': {
    get: { says: 'Who belongs to the bush', gives: 'Members' },
    patch: {
      says: 'Let the others see your own share of brown wood under your name, or no more',
      takes: 'OwnFigures',
      status: 204
    }
  },
  '/bushes/{bush}/members/{member}': {
    patch: {
      says: 'Change what a member may do; in person only',
      takes: 'RoleChange',
      gives: 'Members',
      needs: 'steward'
    },
    delete: {
      says: 'Take a member’s way in; in person only. What she wrote stays, under her name',
      status: 204,
      needs: 'steward'
    }
  },
  '/bushes/{bush}/founder': {
    put: {
      says: 'Pass the founding on to another steward; the founder in person only',
      takes: 'Founding',
      gives: 'Members',
      needs: 'steward'
    }
  },
  '/bushes/{bush}/log': {
    get: {
      says: 'Who changed what of the bush, the newest first, a hundred at a time',
      asks: {
        kind: 'one sort of entries alone; may be left out',
        before: 'the id of the last that is known; may be left out'
      },
      gives: 'Log',
      needs: 'steward'
    }
  },
  '/bushes/{bush}/log.csv': {
    get: { says: 'All of it as a table', file: ['text/csv'], needs: 'steward' }
  },
  '/bushes/{bush}/membership': {
    delete: { says: 'Leave the bush; in person only. What you wrote stays, under your name', status: 204 }
  },
  '/bushes/{bush}/invitations': {
    get: { says: 'Ways in that were handed out', gives: 'Invitations', needs: 'steward' },
    post: {
      says: 'Make a way in; in person only',
      takes: 'NewInvitation',
      gives: 'Invited',
      needs: 'steward',
      status: 201
    }
  },
  '/bushes/{bush}/invitations/{invitation}': {
    delete: { says: 'End it; in person only', gives: 'Invitations', needs: 'steward' }
  },
  '/bushes/{bush}/devices': {
    get: { says: 'Which devices hold the bush, as they said last', gives: 'Held', needs: 'steward' }
  },
  '/bushes/{bush}/members/{member}/sessions': {
    delete: { says: 'Sign a member out everywhere: a phone was lost, say', status: 204, needs: 'steward' }
  },
  '/bushes/{bush}/import': {
    post: {
      says: 'Bring in what is new in a CSV, GPX or GeoJSON file',
      takes: 'Import',
      gives: 'Imported',
      needs: 'steward'
    }
  },
  '/bushes/{bush}/imports': {
    get: { says: 'What files brought in, the newest first', gives: 'Imports', needs: 'steward' }
  },
  '/bushes/{bush}/imports/{import}': {
    delete: {
      says: 'Take an import back: all that it brought, but for trees on which anything was written since',
      gives: 'ImportTakenBack',
      needs: 'steward'
    }
  },
  '/bushes/{bush}/archive': {
    post: {
      says: 'Read an archive back into an empty bush',
      takes: 'Archive',
      gives: 'Restored',
      needs: 'steward'
    }
  },
  '/bushes/{bush}/files/{file}': {
    get: {
      says: 'The bush as a file: trees.csv, readings.csv, tapholes.csv, determinations.csv, tables.zip, bush.geojson, trees.gpx, archive.json',
      file: FILES
    }
  },
  '/devices': { get: { says: 'Measuring devices that answer on this machine', gives: 'Devices' } },
  '/tokens': {
    get: { says: 'Your keys for programs; asked in person only', gives: 'Tokens' },
    post: { says: 'Make a key; in person only', takes: 'NewToken', gives: 'Token', status: 201 }
  },
  '/tokens/{token}': { delete: { says: 'Take a key back; in person only', status: 204 } }
} as const satisfies Readonly<Record<string, Partial<Record<Method, Operation>>>>;

/** What an address does, in words. @param asks `patch /bushes/{bush}` */
export function saysOf(asks: string): string {
  const [method, path] = asks.split(' ') as [Method, string | undefined];
  const operations: Partial<Record<Method, Operation>> = PATHS[path as keyof typeof PATHS] ?? {};
  return operations[method]?.says ?? asks;
}

/** What a schema's answer is in TypeScript; the bush at a glance is described more loosely than it is. */
export type AnswerOf<Name extends SchemaName> = Name extends 'Overview'
  ? Overview
  : Name extends 'Kept'
    ? KeptOverview
    : z.output<(typeof SCHEMAS)[Name]>;
type NamesIn<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}` ? Name | NamesIn<Rest> : never;

/** The table as types: what each address takes and gives, and the names in its path. */
export type ApiPaths = {
  readonly [Path in keyof typeof PATHS]: {
    readonly [M in keyof (typeof PATHS)[Path]]: {
      readonly names: NamesIn<Path>;
      readonly asks: (typeof PATHS)[Path][M] extends { asks: infer Asks }
        ? Readonly<Record<keyof Asks, string>>
        : undefined;
      readonly takes: (typeof PATHS)[Path][M] extends { takes: infer Name extends SchemaName }
        ? z.input<(typeof SCHEMAS)[Name]>
        : undefined;
      readonly gives: (typeof PATHS)[Path][M] extends { gives: infer Name extends SchemaName }
        ? AnswerOf<Name>
        : undefined;
    };
  };
};
