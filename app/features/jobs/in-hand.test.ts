import { type Brought, type InHand, goesOn, goneOn, taken as takenWhen } from "./in-hand";

const load = (
  id: string,
  state: string,
  more: Partial<Brought> & { leftover?: boolean; before?: Brought["steps"] } = {},
): Brought => {
  const open = { id, state, leftover: more.leftover ?? false };
  return {
    entry: more.entry ?? "e1",
    asked: "asked" in more ? more.asked! : id,
    open,
    next: more.next ?? null,
    steps: [...(more.before ?? []), open],
  };
};
const taken = (hand: InHand | null, brought: Brought, typing = false) => takenWhen(hand, brought, typing);
const sent = (hand: InHand): InHand => ({ ...hand, sent: true });
const LOOK = load("look", "ready");
const DONE = load("look", "done", { next: "tools" });

describe("The step in hand, asked for by name", () => {
  it("goes on once the page itself has finished it", () => {
    const hand = sent(taken(null, LOOK));
    expect(goesOn(hand, LOOK, false)).toBeNull();
    expect(goesOn(taken(hand, DONE), DONE, false)).toBe("tools");
  });

  it("stays when another page finished it, when something is typed, and for fields that may still be filled", () => {
    const hand = taken(null, LOOK);
    expect(goesOn(taken(hand, DONE), DONE, false)).toBeNull();
    expect(goesOn(taken(sent(hand), DONE), DONE, true)).toBeNull();
    const optional = load("look", "done", { next: "tools", leftover: true });
    expect(goesOn(taken(sent(hand), optional), optional, false)).toBeNull();
  });

  it("goes on later, when what was typed is saved or the last field is filled, however many loads came between", () => {
    let hand = taken(null, LOOK);
    // Saved elsewhere, or the reply was lost: it is done before the page knows that its own save arrived.
    hand = taken(hand, DONE);
    hand = taken(hand, DONE);
    expect(goesOn(taken(sent(hand), DONE), DONE, false)).toBe("tools");
  });

  it("leaves a running clock for other work", () => {
    const running = load("look", "running", { next: "tools", leftover: true });
    expect(goesOn(taken(sent(taken(null, LOOK)), running), running, false)).toBe("tools");
  });

  it("a clock looked at is left once it is ended or skipped, and not by a note beside it", () => {
    const clock = load("warm", "running", { next: "tools" });
    const looked = sent(taken(null, clock));
    expect(goesOn(taken(looked, clock), clock, false)).toBeNull();
    const skipped = load("warm", "skipped", { next: "tools" });
    expect(goesOn(taken(looked, skipped), skipped, false)).toBe("tools");
  });

  it("opened again when done, is left by a tap alone", () => {
    const again = taken(null, DONE);
    expect(goesOn(taken(sent(again), DONE), DONE, false)).toBeNull();
    // What is taken back makes it work again, and then it goes on as ever.
    const undone = taken(sent(again), LOOK);
    expect(goesOn(taken(undone, DONE), DONE, false)).toBe("tools");
  });

  it("is not given back to loads that were asked for before the page went on", () => {
    const hand = goneOn("tools", "e1");
    expect(taken(hand, DONE)).toBe(hand);
    expect(goesOn(hand, DONE, false)).toBeNull();
    const arrived = taken(hand, load("tools", "ready", { entry: "e2" }));
    expect(arrived).toEqual({ id: "tools", todo: 2, sent: false, left: null });
  });

  it("is what somebody opens, also in the middle of going on", () => {
    const opened = taken(goneOn("tools", "e1"), load("water", "ready", { entry: "e3" }));
    expect(opened.id).toBe("water");
    expect(taken(sent(opened), load("look", "done", { entry: "e4" }))).toMatchObject({ id: "look", todo: 0 });
  });

  it("asked for and not to be worked, is what the server says instead", () => {
    expect(taken(goneOn("tools", "e1"), load("look", "ready", { entry: "e2", asked: "tools" })).id).toBe("look");
  });
});

describe("The step in hand, left to the server", () => {
  const first = taken(null, load("look", "ready", { asked: null }));
  const after = (here: { state: string; leftover?: boolean }) =>
    load("tools", "ready", { asked: null, before: [{ id: "look", leftover: false, ...here }] });

  it("is the next one after a save that finished it, with nothing to ask for", () => {
    expect(taken(sent(first), after({ state: "done" }))).toEqual({
      id: "tools",
      todo: 2,
      sent: false,
      left: null,
    });
    expect(taken(sent(first), after({ state: "running" })).id).toBe("tools");
  });

  it("stays, and is asked for by name, when others finish it, a clock comes due, or it is not finished", () => {
    const stays = { ...first, left: "e1" };
    expect(taken(first, after({ state: "done" }))).toEqual(stays);
    expect(taken(first, after({ state: "ready" }))).toEqual(stays);
    expect(taken(sent(first), after({ state: "ready" }))).toEqual({ ...stays, sent: true });
  });

  it("stays for fields that may still be filled, and while something is typed", () => {
    expect(taken(sent(first), after({ state: "done", leftover: true })).id).toBe("look");
    expect(taken(sent(first), after({ state: "done" }), true).id).toBe("look");
  });

  it("gone from the sheet, is left", () => {
    expect(taken(first, load("tools", "ready", { asked: null })).id).toBe("tools");
  });
});
