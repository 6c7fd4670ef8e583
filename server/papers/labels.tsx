import { Document, Page, Path, Svg, Text, View, renderToBuffer } from "@react-pdf/renderer";
import QRCode from "qrcode";
import { LABEL_SHEETS, type LabelSheet, type LabelSheetId, labelAt, labelsOn } from "../../core/labels";
import { FAMILIES, registerFonts } from "./fonts";

/** Labels of machines on sheets of labels: each opens its machine’s page for whoever of the workshop scans it. */

export interface LabelsOf {
  readonly sheet: LabelSheetId;
  /** Labels of the first sheet that are used already. */
  readonly skip: number;
  readonly labels: readonly {
    readonly address: string;
    readonly serial: string;
    readonly name: string;
    readonly site: string;
  }[];
}

/** mm that stay empty at a label’s edges: printers and dies are never quite in place. */
const MARGIN = 3;
/** mm; smaller ones are hard to scan. Of the label’s width at most so much. */
const LARGEST_CODE = 28;
const CODE_SHARE = 0.4;
const mm = (value: number) => `${value}mm`;

export async function labelsPdf({ sheet: id, skip, labels }: LabelsOf): Promise<Buffer> {
  registerFonts();
  const sheet: LabelSheet = LABEL_SHEETS[id];
  const placed = labels.map((label, i) => ({ ...label, ...labelAt(sheet, skip + i) }));
  const pages = Math.ceil((skip + labels.length) / labelsOn(sheet));
  return renderToBuffer(
    <Document title="Labels" creator="Nimble Gauge" producer="Nimble Gauge">
      {Array.from({ length: pages }, (_, page) => (
        <Page key={page} size={sheet.paper === "A4" ? "A4" : "LETTER"} style={{ fontFamily: FAMILIES, fontSize: 8 }}>
          {placed
            .filter((label) => label.page === page)
            .map((label) => (
              <Label key={label.serial} sheet={sheet} of={label} />
            ))}
        </Page>
      ))}
    </Document>,
  );
}

type Placed = LabelsOf["labels"][number] & { x: number; y: number };

function Label({ sheet, of: { address, serial, name, site, x, y } }: { sheet: LabelSheet; of: Placed }) {
  const [width, height] = [sheet.width - 2 * MARGIN, sheet.height - 2 * MARGIN];
  const code = Math.min(height, LARGEST_CODE, CODE_SHARE * sheet.width);
  return (
    <View
      style={{
        position: "absolute",
        left: mm(x + MARGIN),
        top: mm(y + MARGIN),
        width: mm(width),
        height: mm(height),
        flexDirection: "row",
        alignItems: "center",
        overflow: "hidden",
      }}
    >
      <Code text={address} size={code} />
      <View style={{ marginLeft: mm(2), width: mm(width - code - 2), maxHeight: mm(height), overflow: "hidden" }}>
        <Text style={{ fontSize: 10, fontWeight: 700, maxLines: 2 }}>{serial}</Text>
        <Text style={{ maxLines: 2 }}>{name}</Text>
        <Text style={{ maxLines: 2 }}>{site}</Text>
      </View>
    </View>
  );
}

/** @param size mm */
function Code({ text, size }: { text: string; size: number }) {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: "M" });
  // A quiet zone of four modules belongs to the code (ISO/IEC 18004).
  const quiet = 4;
  const squares = Array.from(modules.data)
    .flatMap((dark, i) =>
      dark ? [`M${(i % modules.size) + quiet} ${Math.floor(i / modules.size) + quiet}h1v1h-1z`] : [],
    )
    .join("");
  const whole = modules.size + 2 * quiet;
  return (
    <Svg viewBox={`0 0 ${whole} ${whole}`} style={{ width: mm(size), height: mm(size) }}>
      <Path d={squares} fill="#000" />
    </Svg>
  );
}
