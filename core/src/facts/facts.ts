/** Everything that was worked out of terms, schedules and rates, by what it is of; it goes when that goes. */
const factsOf = new WeakMap<object, Map<unknown, unknown>>();

function facts(of: object): Map<unknown, unknown> {
  let known = factsOf.get(of);
  if (!known) factsOf.set(of, (known = new Map()));
  return known;
}

/**
 * A fact of something that never changes (terms, a schedule, a rate): worked out when it is first asked for, then
 * known. What throws is not known, and is tried again.
 */
export function fact<Of extends object, Value>(work: (of: Of) => Value): (of: Of) => Value {
  return (of) => {
    const known = facts(of);
    // Only this fact's own work sets what stands under it.
    if (!known.has(work)) known.set(work, work(of));
    return known.get(work) as Value;
  };
}

/**
 * Facts of one sort, told apart by a key: a rate's growth over each length of time, a schedule as known on each day.
 *
 * @param most of them that are known at once; beyond that they are forgotten and worked out anew
 */
export function factsByKey<Of extends object, Value>(
  most = Infinity,
): (of: Of, key: string, work: () => Value) => Value {
  const sort = {};
  return (of, key, work) => {
    const all = facts(of);
    let known = all.get(sort) as Map<string, Value> | undefined;
    if (!known) all.set(sort, (known = new Map<string, Value>()));
    let found = known.get(key);
    if (found === undefined) {
      if (known.size >= most) known.clear();
      known.set(key, (found = work()));
    }
    return found;
  };
}
