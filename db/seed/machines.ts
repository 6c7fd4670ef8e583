import type { KindId, ModelCard } from "../../core/kind";

/** Made-up models, owners and machines, one of every kind. Makers, models, people and cafés are invented. */
export interface DemoMachine {
  kind: KindId;
  maker: string;
  model: string;
  serial: string;
  owner: string;
  site: string;
  town: string;
  modifications?: string;
  /** Turns in the other direction raise the pressure on this model. */
  raises?: "anticlockwise";
  /** What of its model’s card differs from the kind’s usual. */
  card?: Partial<ModelCard>;
  /** Its past is worked by the product’s own commands, once the rest is there. */
  past?: true;
}

export const MACHINES: readonly DemoMachine[] = [
  {
    kind: "K7",
    maker: "Brandvik",
    model: "Skerry",
    serial: "BV-70418",
    owner: "Orla Quill",
    site: "The Gutting Shed",
    town: "Merrowhaven",
  },
  {
    kind: "K11",
    maker: "Halvorsen & Pye",
    model: "Packet Two",
    serial: "HP2-1107",
    owner: "Net Loft Ltd",
    site: "Net Loft Café",
    town: "Merrowhaven",
  },
  {
    kind: "K4",
    maker: "Castellane",
    model: "Duo Menu",
    serial: "CA-D-2231",
    owner: "Pim Oakhanger",
    site: "Pim’s kitchen",
    town: "Saltby",
  },
  {
    kind: "K13",
    maker: "Nettle",
    model: "Cup One",
    serial: "NT1-55902",
    owner: "Josune Brae",
    site: "Josune’s flat",
    town: "Merrowhaven",
  },
  {
    kind: "K12",
    maker: "Castellane",
    model: "Satura Mini",
    serial: "CA-S-0088",
    owner: "Wend Harrow",
    site: "Harrow’s print shop",
    town: "Saltby",
    modifications: "Flow control added on the group; gauge moved to the group.",
  },
  {
    kind: "K1",
    maker: "Nettle",
    model: "Bean to Bench",
    serial: "NTB-10233",
    owner: "Aurin Vale",
    site: "Vale’s houseboat",
    town: "Merrowhaven",
  },
  {
    kind: "K2",
    maker: "Brandvik",
    model: "Lantern",
    serial: "BV-20077",
    owner: "Mirre Tolland",
    site: "Tolland’s studio",
    town: "Eastquay",
  },
  {
    kind: "K3",
    maker: "Brandvik",
    model: "Lantern D",
    serial: "BV-30514",
    owner: "Sefa Lund",
    site: "Sefa’s kitchen",
    town: "Eastquay",
  },
  {
    kind: "K5",
    maker: "Castellane",
    model: "Twinset",
    serial: "CA-T-4410",
    owner: "Corin Ashe",
    site: "Ashe & daughter",
    town: "Saltby",
  },
  {
    kind: "K6",
    maker: "Nettle",
    model: "Tamper Auto",
    serial: "NTA-8071",
    owner: "Yrsa Coombe",
    site: "Ferry ticket office",
    town: "Merrowhaven",
    card: { stopThreads: "less" },
  },
  {
    kind: "K8",
    maker: "Osterley",
    model: "Siphon 3",
    serial: "OS3-0916",
    owner: "Hamble Rowing Club",
    site: "Rowing club bar",
    town: "Hamble End",
    raises: "anticlockwise",
  },
  {
    kind: "K9",
    maker: "Osterley",
    model: "Veteran",
    serial: "OSV-1984",
    owner: "Dag Winterbourne",
    site: "Winterbourne’s barn",
    town: "Hamble End",
  },
  {
    kind: "K10",
    maker: "Halvorsen & Pye",
    model: "Capstan Lever",
    serial: "HPL-0312",
    owner: "Quayside Rooms",
    site: "Quayside Rooms",
    town: "Merrowhaven",
  },
  {
    kind: "K14",
    maker: "Nettle",
    model: "Dose",
    serial: "NTD-3307",
    owner: "Net Loft Ltd",
    site: "Net Loft Café",
    town: "Merrowhaven",
  },
  {
    kind: "K5",
    maker: "Castellane",
    model: "Twinset",
    serial: "CA-T-4432",
    owner: "Ebba Storm",
    site: "Lighthouse flat",
    town: "Saltby",
  },
  {
    kind: "K11",
    maker: "Halvorsen & Pye",
    model: "Packet Two",
    serial: "HP2-1142",
    owner: "Ropewalk Espresso",
    site: "Ropewalk Espresso",
    town: "Eastquay",
  },
  // Sisters of one model: what they have shown serves the next.
  ...(
    [
      ["BV-70433", "Tamsin Reef", "Reef & Reef bakery", "Saltby"],
      ["BV-70461", "Harbour Office", "Harbour office", "Merrowhaven"],
      ["BV-70502", "Olo Pike", "Pike’s bicycles", "Eastquay"],
      ["BV-70517", "Marram House", "Marram House", "Hamble End"],
    ] as const
  ).map(([serial, owner, site, town]) => ({
    kind: "K7" as const,
    maker: "Brandvik",
    model: "Skerry",
    serial,
    owner,
    site,
    town,
  })),
  {
    kind: "K11",
    maker: "Halvorsen & Pye",
    model: "Headland Two",
    serial: "HE2-3301",
    owner: "Three Lamps Ltd",
    site: "Three Lamps",
    town: "Eastquay",
    past: true,
  },
  {
    kind: "K7",
    maker: "Brandvik",
    model: "Skerry S",
    serial: "BV-71120",
    owner: "Ned Farrow",
    site: "Farrow’s boatyard",
    town: "Saltby",
    past: true,
  },
  {
    kind: "K5",
    maker: "Castellane",
    model: "Twinset Plus",
    serial: "CA-T-4509",
    owner: "Ottil Marne",
    site: "Marne’s kitchen",
    town: "Merrowhaven",
    past: true,
  },
  {
    kind: "K1",
    maker: "Nettle",
    model: "Bean to Bench II",
    serial: "NTB-10877",
    owner: "Ruan Teal",
    site: "Teal’s loft",
    town: "Hamble End",
    past: true,
  },
  {
    kind: "K11",
    maker: "Halvorsen & Pye",
    model: "Headland Three",
    serial: "HL3-0450",
    owner: "Three Lamps Ltd",
    site: "Three Lamps at the station",
    town: "Eastquay",
    card: { groups: 3 },
    past: true,
  },
];

/** The other workshop's one machine: there to try the wall between them. */
export const OTHER_MACHINE: DemoMachine = {
  kind: "K7",
  maker: "Brandvik",
  model: "Skerry",
  serial: "BV-70999",
  owner: "Hilde Vass",
  site: "Vass bakery",
  town: "Port Osier",
};

export const COMPLAINTS = [
  "It runs faster than it used to.",
  "Sour since the new beans, and before that too.",
  "The needle goes further than it did.",
  "Yearly service.",
  "A hiss after each shot.",
  "Bitter, whatever I grind.",
] as const;

export const CONDITIONS = [
  "Scratch on the left panel, dent in the tray. Runs quietly. All baskets there.",
  "Clean outside, lime round the wand. No dents. Blind basket missing.",
  "Drip tray rattles. Gasket hard. Nothing missing.",
  "No damage seen. Pump hums louder than usual for the first seconds.",
] as const;

export const COFFEES = ["Breakwater blend", "Harbour light, medium", "Net mender’s dark", "Saltby washed"] as const;
export const GRINDERS = ["Nettle Dose", "Brandvik Quern", "Osterley Flat 64"] as const;
/** Metres above the sea. */
export const ALTITUDES: Record<string, number> = { Saltby: 12, Eastquay: 4, "Hamble End": 310 };
