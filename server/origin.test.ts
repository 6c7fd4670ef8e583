import { readOrigin } from "./origin";

test("an origin is scheme and host; anything else stops the start with words", () => {
  expect(readOrigin(undefined)).toBeNull();
  expect(readOrigin("https://gauge.example")).toBe("https://gauge.example");
  expect(readOrigin("http://127.0.0.1:4180/")).toBe("http://127.0.0.1:4180");
  for (const none of ["gauge.example", "https://gauge.example/app", "ftp://gauge.example", "https://"])
    expect(() => readOrigin(none)).toThrow("like https://gauge.example");
});
