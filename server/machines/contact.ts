import ICAL from "ical.js";

/** An owner’s contact as vCard 4.0 (RFC 6350), for the phone’s own address book. */

export interface Contact {
  readonly id: string;
  readonly name: string;
  readonly phone: string;
  readonly email: string;
  /** Address, or whatever else the workshop keeps. */
  readonly contact: string;
}

export function vcardOf({ id, name, phone, email, contact }: Contact): string {
  const card = new ICAL.Component("vcard");
  card.addPropertyWithValue("version", "4.0");
  card.addPropertyWithValue("uid", `urn:uuid:${id}`);
  card.addPropertyWithValue("fn", name);
  if (phone) card.addProperty(new ICAL.Property(["tel", { type: "work" }, "text", phone]));
  if (email) card.addPropertyWithValue("email", email);
  if (contact) card.addPropertyWithValue("note", contact);
  return `${card.toString()}\r\n`;
}
