import {
  Document,
  Image,
  Page,
  Path,
  Svg,
  Text,
  View,
  Circle,
  Line,
  StyleSheet,
  renderToBuffer,
} from "@react-pdf/renderer";
import type { ReactNode } from "react";
import { NOT_AS_SIGNED, type PrintedReport, type PrintedResult } from "../../core/job";
import { VERDICT_WORDS } from "../../core/metrology";
import { drawStrip } from "../../core/metrology/strip";
import { formatFigure } from "../../core/quantity";
import { FAMILIES, registerFonts } from "./fonts";

/** The service report on paper: the lines of the owner’s page, with the strips, the shots and the photos. */

export interface PaperOf {
  readonly report: PrintedReport;
  readonly town: string;
  readonly contact: string;
  readonly paper: "A4" | "Letter";
  /** PNG; null where the workshop has none. */
  readonly logo: Uint8Array | null;
  /** JPEG, each with what it shows. */
  readonly photos: readonly { readonly data: Uint8Array; readonly said: string }[];
  readonly added: readonly {
    readonly on: string;
    readonly about: string;
    readonly said: string;
    readonly by: string;
    readonly holds: boolean;
  }[];
  /** Who acknowledged it, with the drawing (PNG). */
  readonly acknowledged: readonly {
    readonly name: string;
    readonly on: string;
    readonly drawing: Uint8Array;
    readonly holds: boolean;
  }[];
  readonly hash: string;
  readonly signature: { readonly id: string | null; readonly holds: boolean };
}

const INK = "#13201c";
const SOFT = "#47564f";
const RULE = "#cdd3c4";
const BRASS = "#74530a";
const ALARM = "#a11a14";

const s = StyleSheet.create({
  page: { padding: 42, paddingBottom: 56, fontFamily: FAMILIES, fontSize: 9.5, color: INK },
  head: {
    flexDirection: "row",
    justifyContent: "space-between",
    borderBottom: `1.5pt solid ${INK}`,
    paddingBottom: 8,
    marginBottom: 10,
  },
  title: { fontSize: 19, fontWeight: 700, lineHeight: 1.15 },
  soft: { color: SOFT },
  small: { fontSize: 8, color: SOFT },
  section: { marginTop: 11 },
  h2: { fontSize: 12.5, fontWeight: 700, lineHeight: 1.2, marginBottom: 3 },
  moved: { fontSize: 16, fontWeight: 700, lineHeight: 1.2, marginBottom: 2 },
  between: { flexDirection: "row", justifyContent: "space-between", alignItems: "center" },
  rows: { flexDirection: "row", flexWrap: "wrap", marginTop: 2 },
  row: { width: "50%", paddingRight: 10, marginBottom: 4 },
  line: { flexDirection: "row", borderTop: `0.5pt solid ${RULE}`, paddingVertical: 3 },
  name: { width: 105, fontWeight: 700, paddingRight: 8 },
  note: { borderLeft: `4pt solid ${BRASS}`, paddingLeft: 8 },
  alarm: { borderLeft: `4pt solid ${ALARM}`, paddingLeft: 8, color: ALARM, fontWeight: 700 },
  foot: {
    position: "absolute",
    left: 42,
    right: 42,
    bottom: 24,
    flexDirection: "row",
    justifyContent: "space-between",
    fontSize: 7.5,
    color: SOFT,
  },
  photo: { width: "48%", marginBottom: 8 },
});

/** @returns the PDF */
export function reportPdf(of: PaperOf): Promise<Buffer> {
  registerFonts();
  return renderToBuffer(<Report {...of} />);
}

function Report({ report, town, contact, paper, logo, photos, added, acknowledged, hash, signature: signed }: PaperOf) {
  const { machine } = report;
  return (
    <Document title={`${machine.name} · service report`} author={report.workshop} language="en">
      <Page size={paper === "A4" ? "A4" : "LETTER"} style={s.page} wrap>
        <View style={s.foot} fixed>
          <Text>
            {machine.name}, serial {machine.serial}
          </Text>
          <Text render={({ pageNumber, totalPages }) => `Page ${pageNumber} of ${totalPages}`} />
        </View>
        {/* Not the page’s own: a foot that is drawn anew on each page loses its height under it. */}
        <View style={{ lineHeight: 1.35 }}>
          <View style={s.head}>
            <View style={{ flex: 1, paddingRight: 12 }}>
              <Text style={s.title}>{machine.name}</Text>
              <Text style={s.soft}>
                {machine.where}. Serial {machine.serial}
              </Text>
            </View>
            <View style={{ alignItems: "flex-end" }}>
              {logo && (
                <Image
                  src={{ data: Buffer.from(logo), format: "png" }}
                  style={{ maxHeight: 40, maxWidth: 120, marginBottom: 3 }}
                />
              )}
              <Text style={{ fontWeight: 700 }}>{report.workshop}</Text>
              <Text style={s.soft}>{town}</Text>
            </View>
          </View>
          {!signed.holds && <Text style={s.alarm}>{NOT_AS_SIGNED}</Text>}
          {report.outOfUse !== "" && (
            <Text style={[s.alarm, { fontSize: 13, marginBottom: 6 }]}>{report.outOfUse}</Text>
          )}
          {report.results.map((result) => (
            <Result key={result.title} result={result} />
          ))}
          {report.means !== "" && (
            <Text style={[s.small, s.section]}>
              {report.means}
              {report.instruments.length > 0 ? ` Measured with ${report.instruments.join("; ")}.` : ""}
            </Text>
          )}
          {report.steps.length > 0 && (
            <Section title="Work and readings">
              {report.steps.map((step, i) => (
                <View key={i} style={s.line} wrap={step.lines.length > 12}>
                  <Text style={s.name}>{step.title}</Text>
                  <View style={{ flex: 1 }}>
                    {step.skipped !== null && <Text>Skipped: {step.skipped}</Text>}
                    {step.lines.map((l, k) => (
                      <Text key={k}>
                        <Text style={s.soft}>{l.label}: </Text>
                        {l.text}
                        {l.verdict ? ` (${VERDICT_WORDS[l.verdict]})` : ""}
                      </Text>
                    ))}
                  </View>
                </View>
              ))}
            </Section>
          )}
          {report.held !== "" && <Text style={[s.small, { marginTop: 3 }]}>{report.held}</Text>}
          {report.work.length > 0 && (
            <Section title="Work and parts">
              {report.work.map((said, i) => (
                <View key={i} style={s.line}>
                  <Text style={{ flex: 1 }}>{said}</Text>
                </View>
              ))}
            </Section>
          )}
          {report.shots.length > 0 && <Shots report={report} />}
          {report.notes.length > 0 && (
            <Section title="Please note">
              <View style={s.note}>
                {report.notes.map((note, i) => (
                  <Text key={i}>{note}</Text>
                ))}
              </View>
            </Section>
          )}
          {(report.complaint !== "" || report.condition.length > 0) && (
            <Section title="Seen on arrival">
              {report.complaint !== "" && <Text>You said: “{report.complaint}”</Text>}
              {report.condition.map((line, i) => (
                <Text key={i}>{line}</Text>
              ))}
            </Section>
          )}
          {photos.length > 0 && (
            <Section title="Photos">
              <View style={{ flexDirection: "row", flexWrap: "wrap", justifyContent: "space-between" }}>
                {photos.map((photo, i) => (
                  <View key={i} style={s.photo} wrap={false}>
                    <Image
                      src={{ data: Buffer.from(photo.data), format: "jpg" }}
                      style={{ maxHeight: 200, objectFit: "contain" }}
                    />
                    <Text style={s.small}>{photo.said}</Text>
                  </View>
                ))}
              </View>
            </Section>
          )}
          {report.nextService !== "" && (
            <Section title="Next service">
              <Text>{report.nextService}</Text>
            </Section>
          )}
          <Section title="Do not adjust yourself">
            {report.leave.map((line, i) => (
              <Text key={i}>{line}</Text>
            ))}
            {contact !== "" && <Text style={{ fontWeight: 700 }}>{contact}</Text>}
          </Section>
          {added.length > 0 && (
            <Section title="Added after signing">
              <View style={s.note}>
                {added.map((a, i) => (
                  <Text key={i}>
                    {a.on}, {a.about.toLowerCase()}: {a.said}
                    {a.by ? ` (${a.by})` : ""}
                    {a.holds ? "" : " This was changed after it was added. Do not rely on it."}
                  </Text>
                ))}
              </View>
            </Section>
          )}
          <View style={[s.section, { borderTop: `1.5pt solid ${INK}`, paddingTop: 6 }]} wrap={false}>
            <Text style={{ fontWeight: 700 }}>{report.signed}</Text>
            {acknowledged.map((a, i) => (
              <View key={i}>
                <Image
                  src={{ data: Buffer.from(a.drawing), format: "png" }}
                  style={{ maxHeight: 44, maxWidth: 150, objectFit: "contain", objectPosition: "left" }}
                />
                <Text>
                  Received: {a.name}, {a.on}
                  {a.holds ? "" : ". This was changed afterwards. Do not rely on it."}
                </Text>
              </View>
            ))}
            <Text style={s.small}>SHA-256 of the signed record: {hash}</Text>
            {signed.id && <Text style={s.small}>Signed with the workshop’s key (Ed25519, SHA-256 {signed.id})</Text>}
          </View>
        </View>
      </Page>
    </Document>
  );
}

/** A heading stays with what it heads. */
function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <View style={s.section}>
      <Text style={s.h2} minPresenceAhead={40}>
        {title}
      </Text>
      {children}
    </View>
  );
}

function Result({ result: { title, moved, verdict, rows, finding, strip } }: { result: PrintedResult }) {
  return (
    <View style={s.section} wrap={false}>
      <Text style={s.h2}>{title}</Text>
      <View style={s.between}>
        <View style={{ flex: 1 }}>
          <Text style={s.moved}>{moved}</Text>
          <Text style={{ fontWeight: 700, color: verdict === "off" ? ALARM : INK }}>{VERDICT_WORDS[verdict]}</Text>
        </View>
        <Strip strip={strip} />
      </View>
      <View style={s.rows}>
        {rows.map((row) => (
          <View key={row.name} style={s.row}>
            <Text style={s.small}>{row.name}</Text>
            <Text>
              {row.text}
              {row.verdict ? `, ${VERDICT_WORDS[row.verdict]}` : ""}
            </Text>
            {row.behind && <Text style={s.small}>{row.behind}</Text>}
          </View>
        ))}
      </View>
      {finding !== "" && <Text style={s.note}>{finding}</Text>}
    </View>
  );
}

function Strip({ strip: { tolerance, found, left, unit } }: Pick<PrintedResult, "strip">) {
  const drawn = drawStrip({ tolerance, found, left }, "full");
  return (
    <Svg
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      style={{ width: 250, height: (250 * drawn.height) / drawn.width }}
    >
      <Path d={drawn.bar} fill={RULE} stroke={INK} strokeWidth={1.75} />
      {drawn.target !== "" && <Path d={drawn.target} stroke={INK} strokeWidth={1.5} />}
      {drawn.arrow && <Path d={drawn.arrow.line} stroke={BRASS} strokeWidth={2} fill="none" />}
      {drawn.arrow && <Path d={drawn.arrow.head} stroke={BRASS} strokeWidth={2} fill="none" />}
      {drawn.marks.map(({ look, whisker }) => (
        <Path key={look} d={whisker} stroke={INK} strokeWidth={2} fill="none" />
      ))}
      {drawn.marks.map(({ look, at, y, r }) => (
        <Circle key={look} cx={at} cy={y} r={r} fill={look === "left" ? INK : "#ffffff"} stroke={INK} strokeWidth={2} />
      ))}
      {drawn.ends.map(({ x, y, value }) => (
        <Text key={value} x={x} y={y} style={{ fontSize: 13 }} fill={SOFT} textAnchor="middle">
          {formatFigure(value, left.resolution, unit)}
        </Text>
      ))}
    </Svg>
  );
}

/** px of the chart’s own box. */
const CHART = { width: 500, height: 96, left: 34, right: 10, top: 10, bottom: 20 };

/** Each shot’s seconds, in order: the one that became the recipe is filled. */
function Shots({ report: { shots } }: { report: PrintedReport }) {
  const most = Math.max(30, ...shots.map((shot) => shot.seconds)) * 1.1;
  const x = (i: number) => CHART.left + ((CHART.width - CHART.left - CHART.right) * (i + 0.5)) / shots.length;
  const y = (seconds: number) =>
    CHART.height - CHART.bottom - ((CHART.height - CHART.bottom - CHART.top) * seconds) / most;
  const marks = [10, 20, 30, 40, 50, 60].filter((m) => m < most).slice(0, 6);
  return (
    <Section title="Shots">
      <View wrap={false}>
        <Svg viewBox={`0 0 ${CHART.width} ${CHART.height}`} style={{ width: "100%", height: CHART.height }}>
          {marks.map((m) => (
            <Line
              key={m}
              x1={CHART.left}
              x2={CHART.width - CHART.right}
              y1={y(m)}
              y2={y(m)}
              stroke={RULE}
              strokeWidth={0.75}
            />
          ))}
          {marks.map((m) => (
            <Text key={m} x={CHART.left - 6} y={y(m) + 3} style={{ fontSize: 8 }} fill={SOFT} textAnchor="end">
              {`${m} s`}
            </Text>
          ))}
          {shots.map((shot, i) => (
            <Circle
              key={shot.number}
              cx={x(i)}
              cy={y(shot.seconds)}
              r={4}
              fill={shot.taken ? INK : "#ffffff"}
              stroke={INK}
              strokeWidth={1.5}
            />
          ))}
          {shots.map((shot, i) => (
            <Text
              key={shot.number}
              x={x(i)}
              y={CHART.height - 6}
              style={{ fontSize: 8 }}
              fill={SOFT}
              textAnchor="middle"
            >
              {String(shot.number)}
            </Text>
          ))}
        </Svg>
      </View>
      <Text style={s.small}>Seconds of each shot; filled: the recipe. In words under “Work and readings”.</Text>
    </Section>
  );
}
