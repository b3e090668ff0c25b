import { useState } from "react";
import { Beside } from "../shared/ribbon/Beside";
import { Piece } from "../shared/ribbon/Piece";
import { RibbonRow, Ribbons } from "../shared/ribbon/Ribbons";
import { Strip } from "../shared/ribbon/Strip";
import type { Stretch } from "../shared/ribbon/stretch";
import { Story } from "./Story";

const looks = ["open", "closed", "outline", "changed", "shift", "taken", "break", "buffer", "bad", "offered"] as const;
const day: Stretch = { from: 7 * 60, until: 20 * 60 };

/** Every texture of time on one scale, and one piece that is drawn, dragged and moved by the arrow keys. */
export function RibbonStories() {
  const [held, setHeld] = useState<Stretch[]>([{ from: 9 * 60, until: 12 * 60 }]);
  const set = (at: number, stretch: Stretch) => setHeld(held.map((one, i) => (i === at ? stretch : one)));
  return (
    <Story name="Ribbons" holds={held}>
      <Ribbons label="Textures" scale={day} mark={10 * 60 + 15}>
        {looks.map((look) => (
          <RibbonRow key={look} name={look}>
            <Strip label={look} mark={10 * 60 + 15}>
              <Piece stretch={{ from: 9 * 60, until: 13 * 60 }} look={look} label={look} text={look} fullness={60} />
              <Beside stretch={{ from: 14 * 60, until: 14 * 60 + 30 }}>beside</Beside>
            </Strip>
          </RibbonRow>
        ))}
        <RibbonRow name="drawn" note="draw, drag, arrows, Delete">
          <Strip label="Drawn" onDraw={(drawn, at) => setHeld([...held, drawn ?? { from: at, until: at + 60 }])}>
            {held.map((stretch, i) => (
              <Piece
                key={i}
                stretch={stretch}
                look="shift"
                label="shift"
                onPress={() => {}}
                onChange={(to) => set(i, to)}
                onRemove={() => setHeld(held.filter((_, other) => other !== i))}
              />
            ))}
          </Strip>
        </RibbonRow>
      </Ribbons>
    </Story>
  );
}
