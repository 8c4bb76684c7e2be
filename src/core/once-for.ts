/** Works something out once for each object that it is asked of, for as long as the object is there. */

export function onceFor<K extends object, V>(make: (key: K) => V): (key: K) => V {
  const known = new WeakMap<K, { readonly value: V }>();
  return (key) => {
    let one = known.get(key);
    if (one === undefined) {
      one = { value: make(key) };
      known.set(key, one);
    }
    return one.value;
  };
}
