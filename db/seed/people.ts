/** Made-up workshops and people for the demo. Nobody here exists. */

export const WORKSHOPS = [
  {
    key: "lowtide",
    name: "Low Tide Espresso Works",
    town: "Merrowhaven",
    timeZone: "Europe/London",
    currency: "GBP",
    contact:
      "Low Tide Espresso Works, Ropewalk 7, Merrowhaven. Call if the pressure seems different from this page, if water stops returning, or if anything leaks.",
    opvSchool: "regulate",
    accounts: [
      { name: "Ilka Sandbourne", email: "ilka@lowtide.example", role: "lead" },
      { name: "Tobin Marsh", email: "tobin@lowtide.example", role: "technician" },
    ],
  },
  {
    key: "chandlery",
    name: "Chandlery Lane Machines",
    town: "Port Osier",
    timeZone: "Pacific/Auckland",
    currency: "",
    contact: "Chandlery Lane Machines, Chandlery Lane 2, Port Osier.",
    opvSchool: "ceiling",
    accounts: [{ name: "Runa Feldt", email: "runa@chandlery.example", role: "lead" }],
  },
] as const;

/** Shown at the end of `npm run demo`; the demo's only password. */
export const DEMO_PASSWORD = "wet-hands-9bar";
