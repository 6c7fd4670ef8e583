/** What a spreadsheet would take for a formula begins with one of these, full-width ones among them (OWASP, CSV injection). For SQL too. */
export const FORMULA_START = `^[=+\\-@\\t\\r＝＋－＠]`;
export const FORMULA = new RegExp(FORMULA_START, "u");
