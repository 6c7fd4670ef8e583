/** Sheets of labels as they are sold: where each label lies. Sizes are common practice, from memory; all mm. */

export interface LabelSheet {
  readonly title: string;
  readonly paper: "A4" | "Letter";
  readonly columns: number;
  readonly rows: number;
  readonly width: number;
  readonly height: number;
  /** Of the first label, from the edges of the paper */
  readonly left: number;
  readonly top: number;
  /** From one label to the next */
  readonly across: number;
  readonly down: number;
}

/** mm */
export const PAPER_SIZES = { A4: [210, 297], Letter: [215.9, 279.4] } as const;

export const LABEL_SHEETS = {
  "a4-24": {
    title: "A4, 24 labels of 70 × 37 mm",
    paper: "A4",
    columns: 3,
    rows: 8,
    width: 70,
    height: 37,
    left: 0,
    top: 0.5,
    across: 70,
    down: 37,
  },
  "a4-21": {
    title: "A4, 21 labels of 63.5 × 38.1 mm",
    paper: "A4",
    columns: 3,
    rows: 7,
    width: 63.5,
    height: 38.1,
    left: 7.2,
    top: 15.15,
    across: 66.04,
    down: 38.1,
  },
  "a4-10": {
    title: "A4, 10 labels of 99.1 × 57 mm",
    paper: "A4",
    columns: 2,
    rows: 5,
    width: 99.1,
    height: 57,
    left: 4.65,
    top: 6,
    across: 101.6,
    down: 57,
  },
  "letter-30": {
    title: "Letter, 30 labels of 2⅝ × 1 in",
    paper: "Letter",
    columns: 3,
    rows: 10,
    width: 66.675,
    height: 25.4,
    left: 4.7625,
    top: 12.7,
    across: 69.85,
    down: 25.4,
  },
  "letter-24": {
    title: "Letter, 24 to cut",
    paper: "Letter",
    columns: 3,
    rows: 8,
    width: 71.9,
    height: 34.9,
    left: 0.1,
    top: 0.1,
    across: 71.9,
    down: 34.9,
  },
  "letter-10": {
    title: "Letter, 10 labels of 4 × 2 in",
    paper: "Letter",
    columns: 2,
    rows: 5,
    width: 101.6,
    height: 50.8,
    left: 3.96875,
    top: 12.7,
    across: 106.3625,
    down: 50.8,
  },
} as const satisfies Record<string, LabelSheet>;

export type LabelSheetId = keyof typeof LABEL_SHEETS;
export const LABEL_SHEET_IDS = Object.keys(LABEL_SHEETS) as LabelSheetId[];

/** How many labels a sheet has. */
export const labelsOn = ({ columns, rows }: LabelSheet): number => columns * rows;

/**
 * Where a label lies, row by row.
 *
 * @param index from 0, those left empty counted
 * @returns page from 0; mm from the left and top edges of the paper
 */
export function labelAt(sheet: LabelSheet, index: number): { page: number; x: number; y: number } {
  const each = labelsOn(sheet);
  const on = index % each;
  return {
    page: Math.floor(index / each),
    x: sheet.left + (on % sheet.columns) * sheet.across,
    y: sheet.top + Math.floor(on / sheet.columns) * sheet.down,
  };
}
