import { LABEL_SHEETS, LABEL_SHEET_IDS, PAPER_SIZES, labelAt, labelsOn } from ".";

test.each(LABEL_SHEET_IDS)("%s: every label lies on its paper, and none over another", (id) => {
  const sheet = LABEL_SHEETS[id];
  const [width, height] = PAPER_SIZES[sheet.paper];
  const all = Array.from({ length: labelsOn(sheet) }, (_, i) => labelAt(sheet, i));
  for (const { page, x, y } of all) {
    expect([page, x >= 0, y >= 0, x + sheet.width <= width + 1e-9, y + sheet.height <= height + 1e-9]).toEqual([
      0,
      true,
      true,
      true,
      true,
    ]);
  }
  for (const [i, a] of all.entries())
    for (const b of all.slice(i + 1))
      expect(Math.abs(a.x - b.x) >= sheet.width - 1e-9 || Math.abs(a.y - b.y) >= sheet.height - 1e-9).toBe(true);
  expect(labelAt(sheet, all.length)).toEqual({ ...all[0], page: 1 });
});

test("sheets are named by what they have: 24, 21, 10 and 30", () => {
  for (const id of LABEL_SHEET_IDS) {
    expect(labelsOn(LABEL_SHEETS[id])).toBe(Number(id.split("-")[1]));
    expect(LABEL_SHEETS[id].title).toContain(id.split("-")[1]);
  }
});
