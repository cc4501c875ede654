/**
 * How something of a client follows the same thing of its agency: words today; plans and rules can follow a master the
 * same way. Three values decide: what the client has, what the master was when the client last took it, and what the
 * master is now.
 */

export type Following<Value> =
  /** As the master was taken; `offer` is what the master says by now, null where that is the same. */
  | { state: "follows"; offer: Value | null }
  /** Changed here. `moved`: the master has changed since, too. */
  | { state: "changed"; moved: boolean };

/** `own` is null where the client has nothing of its own; `same` compares two values. */
export function following<Value>(
  own: Value | null,
  taken: Value,
  master: Value,
  same: (a: Value, b: Value) => boolean = Object.is,
): Following<Value> {
  if (own === null || same(own, taken)) return { state: "follows", offer: same(taken, master) ? null : master };
  return { state: "changed", moved: !same(taken, master) };
}
