import fc from "fast-check";
import { fitLine, onLine } from ".";

/** NIST StRD, linear regression, "Norris": y against x, 36 observations (values from memory, held together by the certified result). */
const NORRIS = `0.1 0.2 338.8 337.4 118.1 118.2 888.0 884.6 9.2 10.1 228.1 226.5 668.5 666.3 998.5 996.3 449.1 448.6 778.9 777.0
559.2 558.2 0.3 0.4 0.1 0.6 778.1 775.5 668.8 666.9 339.3 338.0 448.9 447.5 10.8 11.6 557.7 556.0 228.3 228.1 998.0 995.8 888.8 887.6
119.6 120.2 0.3 0.3 0.6 0.3 557.6 556.8 339.3 339.1 888.0 887.2 998.5 999.0 778.9 779.0 10.2 11.1 117.6 118.3 228.9 229.2 668.4 669.1
449.2 448.9 0.2 0.5`;

const points = (() => {
  const figures = NORRIS.split(/\s+/).map(Number);
  return Array.from({ length: figures.length / 2 }, (_, i) => ({ y: figures[2 * i]!, x: figures[2 * i + 1]! }));
})();

test("NIST StRD Norris, certified values: intercept, slope, residual standard deviation", () => {
  const line = fitLine(points);
  expect(points).toHaveLength(36);
  expect(line.intercept).toBeCloseTo(-0.262323073774029, 9);
  expect(line.slope).toBeCloseTo(1.00211681802045, 11);
  expect(line.residualSd).toBeCloseTo(0.884796396144373, 9);
  expect(line.interceptU).toBeCloseTo(0.232818234301152, 9);
  expect(line.slopeU).toBeCloseTo(0.429796848199937e-3, 12);
});

/**
 * GUM H.3, calibration of a thermometer: corrections in °C against what it showed, eleven points (values from memory; the published
 * results hold them together: a digit wrong in one of them shows in all five).
 */
test("GUM H.3 in full: line, its uncertainties, their correlation, the correction at 30 °C", () => {
  const shown = [21.521, 22.012, 22.512, 23.003, 23.507, 23.999, 24.513, 25.002, 25.503, 26.01, 26.511];
  const corrections = [-0.171, -0.169, -0.166, -0.159, -0.164, -0.165, -0.156, -0.157, -0.159, -0.161, -0.16];
  const line = fitLine(shown.map((t, i) => ({ x: t - 20, y: corrections[i]! })));
  expect(line.intercept).toBeCloseTo(-0.1712, 4);
  expect(line.interceptU).toBeCloseTo(0.0029, 4);
  expect(line.slope).toBeCloseTo(0.00218, 5);
  expect(line.slopeU).toBeCloseTo(0.00067, 5);
  expect(line.covariance / (line.interceptU * line.slopeU)).toBeCloseTo(-0.93, 2);
  expect(line.residualSd).toBeCloseTo(0.0035, 4);
  expect(line.dof).toBe(9);
  const at30 = onLine(line, 30 - 20);
  expect(at30.value).toBeCloseTo(-0.1494, 4);
  expect(at30.u).toBeCloseTo(0.0041, 4);
});

test("the line at a place", () => {
  const line = fitLine([
    { x: 0, y: 1 },
    { x: 1, y: 3.1 },
    { x: 2, y: 4.9 },
    { x: 3, y: 7 },
  ]);
  const mean = onLine(line, 1.5);
  expect(mean.value).toBeCloseTo(4, 9);
  // At the mean of x the fitted value is as sure as a mean of n.
  expect(mean.u).toBeCloseTo(line.residualSd / 2, 9);
  expect(onLine(line, 10).u).toBeGreaterThan(mean.u);
});

test("what makes no line is refused", () => {
  expect(() => fitLine([{ x: 0, y: 1 }])).toThrow("at least 3 points");
  expect(() => fitLine([1, 2, 3].map((y) => ({ x: 5, y })))).toThrow("two different places");
});

const some = fc.array(fc.record({ x: fc.integer({ min: -500, max: 500 }), y: fc.integer({ min: -500, max: 500 }) }), {
  minLength: 3,
  maxLength: 20,
});
const spread = some.filter((p) => new Set(p.map((q) => q.x)).size > 1);

test("independent of the units and of the order of points (property)", () => {
  fc.assert(
    fc.property(spread, fc.integer({ min: 1, max: 50 }), (p, scale) => {
      const line = fitLine(p);
      const scaled = fitLine([...p].reverse().map(({ x, y }) => ({ x: x * scale, y: y * scale })));
      expect(scaled.slope).toBeCloseTo(line.slope, 6);
      expect(scaled.residualSd).toBeCloseTo(line.residualSd * scale, 4);
      expect(line.residuals.reduce((a, b) => a + b, 0)).toBeCloseTo(0, 5);
    }),
  );
});
