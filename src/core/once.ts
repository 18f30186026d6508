/** Works something out when it is asked for first, and not again. */
export function once<T>(work: () => T): () => T {
  let made: { value: T } | undefined;
  return () => (made ??= { value: work() }).value;
}

/**
 * The same for each thing that something is made of: made when it is asked for first, and kept for as long as that
 * thing is. It must not be changed afterwards, only replaced.
 */
export function onceFor<Of extends object, Made>(make: (of: Of) => Made): (of: Of) => Made {
  const known = new WeakMap<Of, { made: Made }>();
  return (of) => {
    const before = known.get(of) ?? { made: make(of) };
    known.set(of, before);
    return before.made;
  };
}
