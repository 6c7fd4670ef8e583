import { type Page, expect } from "@playwright/test";

/** A table of the step in hand: opened, rows typed into it, its lines read. */
export function table(page: Page, title: string) {
  const box = page.locator("details").filter({ has: page.locator("summary", { hasText: title }) });
  return {
    lines: box.getByRole("status"),
    async row(given: Record<string, string>, choices: Record<string, string> = {}) {
      if (!(await box.getByRole("button", { name: "Save row" }).isVisible()))
        await box.locator("summary").first().click();
      const rows = box.getByRole("button", { name: /^Exclude/ });
      const before = await rows.count();
      for (const [label, option] of Object.entries(choices))
        await box.getByLabel(label, { exact: true }).selectOption({ label: option });
      for (const [label, words] of Object.entries(given)) await box.getByLabel(label, { exact: true }).fill(words);
      await box.getByRole("button", { name: "Save row" }).click();
      await expect(rows).toHaveCount(before + 1);
    },
    box,
  };
}
