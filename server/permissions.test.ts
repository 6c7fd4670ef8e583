import { RIGHTS, type Right, may, need } from "./permissions";
import { Refused } from "./refused";

const lead = { role: "lead", way: "password" } as const;
const technician = { role: "technician", way: "password" } as const;

test("a technician works; library, workshop, people and exceptions are a lead’s", () => {
  const of = (right: Right) => [may(technician, right), may(lead, right)];
  expect(of("work")).toEqual([true, true]);
  expect(of("own")).toEqual([true, true]);
  for (const right of ["library", "workshop", "people", "exception"] as const) expect(of(right)).toEqual([false, true]);
});

test("by PIN there is the work and nothing else, whoever it is", () => {
  for (const right of Object.keys(RIGHTS) as Right[])
    for (const person of [lead, technician]) expect(may({ ...person, way: "pin" }, right)).toBe(right === "work");
});

test("a program works and takes records away; it decides nothing that asks for a person’s own password", () => {
  const of = (role: "lead" | "technician") =>
    (Object.keys(RIGHTS) as Right[]).filter((right) => may({ role, way: "program" }, right));
  expect(of("technician")).toEqual(["work"]);
  expect(of("lead")).toEqual(["work", "records"]);
});

test("what may not be done is refused in words, as not theirs", () => {
  expect(() => need(lead, "people")).not.toThrow();
  try {
    need(technician, "people");
    throw new Error("let through");
  } catch (error) {
    expect(error).toBeInstanceOf(Refused);
    expect(error).toMatchObject({ status: 403, message: "Only a lead changes who belongs to the workshop." });
  }
});
