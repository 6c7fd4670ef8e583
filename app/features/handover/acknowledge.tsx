import { useEffect, useRef, useState } from "react";
import SignaturePad from "signature_pad";
import { Button } from "~app/ui/button";
import { FieldError, TextField } from "~app/ui/field";
import { PlainForm, usePlainForm } from "~app/ui/plain-form";

/** The owner signs, on the spot or later: a name, and a line drawn with finger, pen or mouse. */
export default function Acknowledge({ newId }: { newId: string }) {
  const form = usePlainForm("acknowledge");
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<SignaturePad | null>(null);
  const [drawn, setDrawn] = useState("");
  useEffect(() => {
    const box = canvas.current!;
    // Drawn in the pixels it is shown in, so that the line lies under the finger.
    const ratio = Math.max(1, window.devicePixelRatio);
    box.width = box.offsetWidth * ratio;
    box.height = box.offsetHeight * ratio;
    box.getContext("2d")!.scale(ratio, ratio);
    const own = new SignaturePad(box, { backgroundColor: "#fff", penColor: "#111" });
    own.addEventListener("endStroke", () => setDrawn(own.toDataURL("image/png")));
    pad.current = own;
    return () => own.off();
  }, []);
  return (
    <PlainForm form={form} newId={newId} className="grid gap-3">
      <p>It was shown to me, and I have what is on this card.</p>
      <TextField field={form.field("name")} label="Your name" autoComplete="name" />
      <div className="grid gap-1.5">
        <p id="sign-here" className="font-semibold">
          Sign here
        </p>
        <canvas
          ref={canvas}
          role="img"
          aria-labelledby="sign-here"
          className="h-40 w-full touch-none rounded-md border-2 border-edge bg-white"
        />
        <input type="hidden" name="drawing" value={drawn} />
        <FieldError field={form.field("drawing")} />
      </div>
      <span className="flex flex-wrap gap-2">
        <Button look="main" disabled={form.busy}>
          I have received it
        </Button>
        <Button
          type="button"
          look="quiet"
          onClick={(e) => {
            const typed = e.currentTarget.form?.elements.namedItem("name") as HTMLInputElement | null;
            if (!canvas.current || !typed?.value.trim()) return typed?.focus();
            pad.current?.clear();
            write(canvas.current, typed.value.trim());
            setDrawn(canvas.current.toDataURL("image/png"));
          }}
        >
          Sign with my typed name
        </Button>
        <Button
          type="button"
          look="quiet"
          onClick={() => {
            pad.current?.clear();
            setDrawn("");
          }}
        >
          Draw it again
        </Button>
      </span>
    </PlainForm>
  );
}

/** For whoever does not draw: the name, as large as the box lets it be. */
function write(box: HTMLCanvasElement, name: string): void {
  const pen = box.getContext("2d")!;
  pen.save();
  pen.setTransform(1, 0, 0, 1, 0, 0);
  pen.fillStyle = "#111";
  pen.font = `italic ${Math.round(Math.min(box.height / 3, (1.6 * box.width) / Math.max(name.length, 4)))}px serif`;
  pen.textAlign = "center";
  pen.fillText(name, box.width / 2, box.height * 0.6, box.width * 0.92);
  pen.restore();
}
