import { Told } from "./told";

const told = () => new Told(1000, 3);

test("what came from a moment on is told again, of this workshop alone, in order", () => {
  const t = told();
  t.begin(100);
  t.note(110, "a", "job1 1");
  t.note(120, "b", "job2 1");
  t.note(130, "a", "job1 2");
  expect(t.since(100, "a")).toEqual(["job1 1", "job1 2"]);
  expect(t.since(111, "a")).toEqual(["job1 2"]);
  expect(t.since(130, "a")).toEqual(["job1 2"]);
  expect(t.since(131, "a")).toEqual([]);
  expect(t.since(100, "c")).toEqual([]);
});

test("before listening began, while nobody listens, and over a gap nobody can say", () => {
  const t = told();
  expect(t.since(5, "a")).toBeNull();
  t.note(6, "a", "unheard");
  t.begin(100);
  expect(t.since(99, "a")).toBeNull();
  expect(t.since(100, "a")).toEqual([]);
  t.note(110, "a", "job 1");
  t.end();
  expect(t.since(110, "a")).toBeNull();
  t.begin(200);
  expect(t.since(110, "a")).toBeNull();
  expect(t.since(200, "a")).toEqual([]);
});

test("what is too old or too much is forgotten, and that it is forgotten is known", () => {
  const t = told();
  t.begin(0);
  for (const at of [10, 20, 30, 40]) t.note(at, "a", String(at));
  expect(t.since(10, "a")).toBeNull();
  expect(t.since(11, "a")).toEqual(["20", "30", "40"]);
  t.note(2000, "a", "2000");
  expect(t.since(40, "a")).toBeNull();
  expect(t.since(41, "a")).toEqual(["2000"]);
});
