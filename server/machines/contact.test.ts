import ICAL from "ical.js";
import { vcardOf } from "./contact";

test("an owner as vCard, read back", () => {
  const words = {
    name: "Orla Quill; Sons, Ltd",
    phone: "+44 20 7946 0000",
    email: "orla@quill.example",
    contact: "Quay 3\nBack door",
  };
  const card = new ICAL.Component(
    ICAL.parse(vcardOf({ id: "0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21", ...words })) as unknown[],
  );
  const value = (name: string) => card.getFirstPropertyValue(name);
  expect([value("version"), value("fn"), value("tel"), value("email"), value("note")]).toEqual([
    "4.0",
    words.name,
    words.phone,
    words.email,
    words.contact,
  ]);
});

test("what is not known is not there", () => {
  const text = vcardOf({
    id: "0b9e2c1a-4a65-4d8e-8a0f-6f3b8a7c5d21",
    name: "Quill",
    phone: "",
    email: "",
    contact: "",
  });
  expect(text).not.toMatch(/TEL|EMAIL|NOTE/);
});
