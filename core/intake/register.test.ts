import { guessRegister } from "./register";

test.each([
  [
    ["serial", "maker", "model", "owner", "site", "town", "installed_on", "coffee", "grinder", "shots_per_day"],
    ["serial", "maker", "model", "owner", "site", "town", "installedOn", "coffee", "grinder", "shotsPerDay"],
  ],
  [
    ["Kunde", "Standort", "Ort", "Hersteller", "Modell", "Seriennummer", "Telefon", "E-Mail", "Inbetriebnahme"],
    ["owner", "site", "town", "maker", "model", "serial", "phone", "email", "installedOn"],
  ],
  [
    ["Customer", "City", "Machine", "S/N", "Owner"],
    ["owner", "town", "model", "serial", null],
  ],
  [
    ["id", "owner_id", "retired_on", "gauge_place", "", "Remarks"],
    [null, null, null, null, null, null],
  ],
  [
    ["Matricola", "Cliente", "Sede", "Città", "Macinino"],
    ["serial", "owner", "site", "town", "grinder"],
  ],
])("%j", (heads, expected) => expect(guessRegister(heads)).toEqual(expected));
