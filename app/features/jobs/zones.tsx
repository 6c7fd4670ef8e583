import { type ReactNode, type RefObject, useState } from "react";
import { useLocation } from "react-router";
import { useSwipeable } from "react-swipeable";

/** Bench, sheet and gauge: side by side where there is room, one at a time where there is not. */
export const ZONES = ["bench", "sheet", "gauge"] as const;
export type Zone = (typeof ZONES)[number];

/**
 * Which zone is on a small screen: what the work in hand needs, until somebody goes to another. It stands in the document already, so it
 * is there from the first paint, and without scripts, too. Once the last figure of a step is read its gauge stays: what it says of that
 * figure has not been seen yet.
 *
 * @param measured what the gauge is needed for just now; null where the work is on the sheet
 * @param step what is in hand: with another one, the page goes where that is worked
 */
export function useZone(measured: string | null, step: string): [Zone, (zone: Zone) => void] {
  const needed = measured === null ? "sheet" : "gauge";
  const asked = new URLSearchParams(useLocation().search).get("zone");
  const [at, setAt] = useState(() => ({ step, measured, zone: ZONES.find((z) => z === asked) ?? needed }));
  let { zone } = at;
  if (at.step !== step || at.measured !== measured) {
    if (at.step !== step || measured !== null) zone = needed;
    setAt({ step, measured, zone });
  }
  return [zone, (picked) => setAt({ step, measured, zone: picked })];
}

interface Props {
  ref: RefObject<HTMLDivElement | null>;
  shown: Zone;
  onShow: (zone: Zone) => void;
  onSubmitCapture: () => void;
  /** What is done next, for the thumb; null where the zone in hand has its own. */
  next: ReactNode;
  children: ReactNode;
}

export function Zones({ ref, shown, onShow, onSubmitCapture, next, children }: Props) {
  const to = (by: number) => () => {
    const zone = ZONES[ZONES.indexOf(shown) + by];
    if (zone) onShow(zone);
  };
  const swipe = useSwipeable({ onSwipedLeft: to(1), onSwipedRight: to(-1), delta: 60, trackTouch: true });
  return (
    <>
      <div
        className="zones"
        data-shown={shown}
        tabIndex={-1}
        onSubmitCapture={onSubmitCapture}
        {...swipe}
        ref={(node) => {
          ref.current = node;
          swipe.ref(node);
        }}
      >
        {children}
      </div>
      {next}
      <ZoneBar shown={shown} onShow={onShow} />
    </>
  );
}

function ZoneBar({ shown, onShow }: Pick<Props, "shown" | "onShow">) {
  const { search } = useLocation();
  const addressOf = (zone: Zone) => {
    const asked = new URLSearchParams(search);
    asked.set("zone", zone);
    return `?${asked}`;
  };
  return (
    <nav aria-label="Zones" className="zone-bar no-print bg-sheet wide:hidden">
      {ZONES.map((zone) => (
        <a
          key={zone}
          href={addressOf(zone)}
          aria-current={shown === zone ? "true" : undefined}
          className="zone-tab grid place-items-center font-semibold capitalize"
          onClick={(e) => {
            e.preventDefault();
            onShow(zone);
          }}
        >
          {zone}
        </a>
      ))}
    </nav>
  );
}
