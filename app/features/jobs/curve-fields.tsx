import { useRef } from "react";
import type { Entry } from "~app/ui/use-entry";
import { TextArea } from "~app/ui/field";

/** The whole curve instead of one figure: typed in as points, or read from a trace’s file. */
export function CurveFields({ entry }: { entry: Entry }) {
  const area = useRef<HTMLDivElement>(null);
  const { curve } = entry.fields;
  const fill = async (file: File | undefined) => {
    const box = area.current?.querySelector("textarea");
    if (!file || !box) return;
    box.value = (await file.text()).slice(0, 40_000);
    box.dispatchEvent(new Event("input", { bubbles: true }));
  };
  return (
    <details open={curve?.errors ? true : undefined}>
      <summary className="min-h-11 cursor-pointer py-2.5 font-semibold">The curve instead: points or a trace</summary>
      <div ref={area} className="grid gap-2 text-sm">
        <TextArea
          field={curve!}
          label="Seconds and temperature, a line each"
          hint="“0 62”, “5 88.5” … or a trace as CSV. Its plateau is what counts, the peak of a short flush."
          rows={4}
        />
        <label className="grid gap-1.5 font-semibold">
          From a file
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            onChange={(e) => void fill(e.target.files?.[0])}
            className="font-normal"
          />
        </label>
      </div>
    </details>
  );
}
