import type { CallbackEvent, Highs } from 'highs';

/** A mixed-integer program to be maximised, in the field's usual form: columns with costs, rows with limits. */
export interface Program {
  readonly columns: readonly {
    readonly gain: number;
    readonly lower: number;
    readonly upper: number;
    readonly whole: boolean;
  }[];
  readonly rows: readonly {
    readonly lower: number;
    readonly upper: number;
    /** column and coefficient */
    readonly terms: readonly (readonly [number, number])[];
  }[];
}

export interface Answer {
  /** optimal: within the asked gap; timeLimit: the best one found in the time; infeasible: no answer keeps all limits */
  readonly status: 'optimal' | 'timeLimit' | 'infeasible';
  /** one value a column; null where there is no answer */
  readonly values: Float64Array | null;
  readonly gain: number;
  /** no answer can gain more than this */
  readonly bound: number;
  /** (bound - gain) / |gain| */
  readonly gap: number;
}

export interface SolveOptions {
  /** relative gap at which to stop */
  readonly gap?: number;
  readonly seconds?: number;
  /** told of each better answer as it is found */
  readonly onBetter?: (better: {
    readonly values: Float64Array;
    readonly gain: number;
    readonly bound: number;
  }) => void;
}

/** @throws Error where the time ran out before any answer was found, or that there is none */
export type Solver = (program: Program, options?: SolveOptions) => Answer;

/** Gap at which a plan counts as the best one. */
export const PROVEN_GAP = 0.001;

/** A row without terms is kept up to this, as the solver itself would take it. */
const ROUNDING = 1e-7;

/** The answer where there is nothing to decide, or nothing that keeps all limits. */
function emptyAnswer(kept: boolean): Answer {
  return kept
    ? { status: 'optimal', values: new Float64Array(0), gain: 0, bound: 0, gap: 0 }
    : { status: 'infeasible', values: null, gain: -Infinity, bound: -Infinity, gap: Infinity };
}

/**
 * The solver HiGHS, from its loaded runtime. It runs on the thread that calls it, until it is done; whoever wants to end
 * it before ends that thread.
 */
export function highsSolver(highs: Highs): Solver {
  const { callbackType, modelStatus, objectiveSense } = highs.constants;
  return ({ columns, rows }, { gap = PROVEN_GAP, seconds = 60, onBetter } = {}) => {
    if (columns.length === 0)
      return emptyAnswer(rows.every(({ lower, upper }) => lower <= ROUNDING && upper >= -ROUNDING));
    const starts = new Int32Array(rows.length + 1);
    const terms = rows.flatMap((row, i) => {
      starts[i + 1] = starts[i]! + row.terms.length;
      return row.terms;
    });
    const of = <T>(list: readonly T[], value: (each: T) => number) => Float64Array.from(list, value);
    return highs.withModel(
      {
        numCols: columns.length,
        numRows: rows.length,
        sense: objectiveSense.maximize,
        colCost: of(columns, ({ gain }) => gain),
        colLower: of(columns, ({ lower }) => lower),
        colUpper: of(columns, ({ upper }) => upper),
        rowLower: of(rows, ({ lower }) => lower),
        rowUpper: of(rows, ({ upper }) => upper),
        matrix: {
          format: 'csr',
          numRows: rows.length,
          numCols: columns.length,
          starts,
          indices: Int32Array.from(terms, ([column]) => column),
          values: of(terms, ([, coefficient]) => coefficient)
        },
        integrality: Int32Array.from(columns, ({ whole }) => Number(whole))
      },
      (model): Answer => {
        model.options.set({ output_flag: false, mip_rel_gap: gap, time_limit: seconds });
        model.run(
          onBetter && {
            [callbackType.mipImprovingSolution]: ({ data }: CallbackEvent) => {
              if (data.mip_solution)
                onBetter({
                  values: data.mip_solution,
                  gain: data.objective_function_value ?? NaN,
                  bound: data.mip_dual_bound ?? Infinity
                });
            }
          }
        );
        const status = model.getModelStatus();
        if (status === modelStatus.infeasible) return emptyAnswer(false);
        if (!Number.isFinite(Number(model.info.get('mip_gap'))))
          throw new Error('The solver found no answer in its time, nor that there is none.');
        return {
          status: status === modelStatus.optimal ? 'optimal' : 'timeLimit',
          values: Float64Array.from(model.getSolution().colValue),
          gain: model.getObjectiveValue(),
          bound: Number(model.info.get('mip_dual_bound')),
          gap: Number(model.info.get('mip_gap'))
        };
      }
    );
  };
}
