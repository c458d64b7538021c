/** `make`, whose results are kept by their key for good: for what is costly to make and asked for with few different keys. */
export function keptByKey<Key, Value>(make: (key: Key) => Value): (key: Key) => Value {
  const kept = new Map<Key, { readonly value: Value }>();
  return (key) => {
    let found = kept.get(key);
    if (!found) kept.set(key, (found = { value: make(key) }));
    return found.value;
  };
}

/** `make`, called when its result is first asked for, and never again. */
export function keptOnce<Value>(make: () => Value): () => Value {
  const kept = keptByKey((_: null) => make());
  return () => kept(null);
}
