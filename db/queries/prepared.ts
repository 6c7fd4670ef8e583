/**
 * Keeps what is made for a database: a query is built as text and planned once, not on every request, which would take longer
 * than running it. Each connection that writes is a database of its own here, and builds its own once.
 */
export function onceEach<D extends object, Q>(make: (db: D) => Q): (db: D) => Q {
  const made = new WeakMap<D, Q>();
  return (db) => {
    let query = made.get(db);
    if (!query) made.set(db, (query = make(db)));
    return query;
  };
}
