/** How the server took a batch. */
export type Answer<Outcome> =
  | { readonly kind: 'taken'; readonly outcomes: readonly Outcome[] }
  /** the batch as a whole was not taken; `final` where sending it again would change nothing */
  | { readonly kind: 'refused'; readonly reason: string; readonly final: boolean }
  /** nobody answers, or the session is over: nothing of what is left is tried now */
  | { readonly kind: 'stop'; readonly reason: string | null };

export interface Sent<Item, Outcome> {
  readonly outcomes: readonly Outcome[];
  /** items that the server does not take even alone */
  readonly aside: readonly { readonly item: Item; readonly reason: string; readonly final: boolean }[];
  /** why it stopped before its end; null where it did not; the reason may be empty */
  readonly stopped: { readonly reason: string | null } | null;
}

/**
 * Sends a batch; one that is not taken is halved until the bad item stands alone. It is set aside with the reason and the
 * others arrive: one bad record never stops the rest.
 */
export async function sendInHalves<Item, Outcome>(
  batch: readonly Item[],
  post: (part: readonly Item[]) => Promise<Answer<Outcome>>
): Promise<Sent<Item, Outcome>> {
  const outcomes: Outcome[] = [];
  const aside: { item: Item; reason: string; final: boolean }[] = [];
  const left: (readonly Item[])[] = [batch];
  while (left.length > 0) {
    const part = left.shift()!;
    if (part.length === 0) continue;
    const answer = await post(part);
    if (answer.kind === 'stop') return { outcomes, aside, stopped: { reason: answer.reason } };
    if (answer.kind === 'taken') outcomes.push(...answer.outcomes);
    else if (part.length === 1) aside.push({ item: part[0]!, reason: answer.reason, final: answer.final });
    else {
      const half = Math.ceil(part.length / 2);
      // In their order: a tree's entry goes before what is said of it.
      left.unshift(part.slice(0, half), part.slice(half));
    }
  }
  return { outcomes, aside, stopped: null };
}
