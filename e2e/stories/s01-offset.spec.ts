import { expect, letSettle, read, test, toGroupTemperature } from "../workshop";

test("S1: an offset with a reading that is still the old one: waited out, never turned on, and the figure is the last one’s", async ({
  page,
}) => {
  await toGroupTemperature(page);
  const next = page.getByRole("region", { name: "Next move" });
  const figure = page.locator("#gauge").getByRole("status").first();
  const water = { field: "Plateau of the water" };
  await page.getByLabel("Set point on the display").fill("94");
  await read(page, "89", water);
  await expect(figure).toHaveText(/[-−]5\.\d\s*°C\s*out of spec/);
  await expect(next).toContainText("Raise offset by 5 °C");
  await page.getByRole("button", { name: "Offset raised by 5 °C" }).click();
  await expect(next).toContainText("Read again: it was adjusted since the last reading.");
  await letSettle(page, 6);

  await read(page, "89", water);
  await expect(next).toContainText("Wait, then read again.");
  await expect(page.getByRole("button", { name: /^Offset raised by/ })).toBeHidden();

  // Set to +8 all the same, and read once it has settled: 1 too much.
  const gauge = page.locator("#gauge");
  await gauge.getByText("Adjusted again").click();
  await gauge.getByLabel(/^How far/).fill("3");
  await gauge.getByRole("button", { name: "Save adjustment" }).click();
  await expect(gauge).toContainText("–.–");
  await letSettle(page, 6);
  await read(page, "95", water);
  await expect(figure).toHaveText(/\+1\.\d\s*°C/);
  await expect(next).toContainText("Lower offset by 1 °C");
  await page.getByRole("button", { name: "Offset lowered by 1 °C" }).click();
  await expect(next).toContainText("Read again: it was adjusted since the last reading.");
  await letSettle(page, 6);
  await read(page, "94", water);
  await expect(figure).toHaveText(/0\.0\s*°C\s*in spec/);
  await expect(next).toContainText("In spec. Next: At a second set point, 2 °C away.");
  const second = page.getByRole("region", { name: "At a second set point, 2 °C away" });
  await second.getByLabel("Set point, °C").fill("92");
  await second.getByLabel("Plateau, °C").fill("92");
  await second.getByRole("button", { name: "Save row" }).click();
  await expect(page.getByText(/an offset cannot explain this/)).toHaveCount(0);
  await expect(page.locator("[aria-current=step] h3")).not.toHaveText("Temperature at the group");
});
