import { remembered } from "./remembered";

describe("answers that are kept", () => {
  const asked: string[] = [];
  const answer = (question: { word: string }) => {
    asked.push(question.word);
    return { length: question.word.length };
  };
  beforeEach(() => asked.splice(0));

  test("the same question, in the same words, is worked out once", () => {
    const ask = remembered(answer, 10);
    expect(ask({ word: "pear" })).toBe(ask({ word: "pear" }));
    expect(ask({ word: "fig" })).toEqual({ length: 3 });
    expect(asked).toEqual(["pear", "fig"]);
  });

  test("the oldest goes first, by number and by the length of what was asked", () => {
    const few = remembered(answer, 2);
    for (const word of ["a", "b", "c", "a"]) few({ word });
    expect(asked).toEqual(["a", "b", "c", "a"]);
    asked.splice(0);
    const short = remembered(answer, 100, 60);
    for (const word of ["a", "b".repeat(40), "a"]) short({ word });
    expect(asked).toEqual(["a", "b".repeat(40), "a"]);
  });

  test("a question too long to keep is answered all the same", () => {
    const short = remembered(answer, 100, 60);
    const word = "x".repeat(200);
    expect([short({ word }), short({ word })]).toEqual([{ length: 200 }, { length: 200 }]);
    expect(asked).toHaveLength(2);
  });
});
