import { Button } from "~app/ui/button";

export function PrintButton() {
  return (
    <div className="no-print mt-4">
      <Button type="button" onClick={() => window.print()}>
        Print
      </Button>
    </div>
  );
}
