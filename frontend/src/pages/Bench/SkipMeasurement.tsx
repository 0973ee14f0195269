import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { EntryInput } from "../../api/entries";
import { Button } from "../../components/Button";
import { Field } from "../../components/Fields";
import { Fold } from "../../components/Fold";

type Quantity = Schemas["ReadingIn"]["quantity"];

const WITHOUT: Record<Quantity, string> = {
  voltage: "It stays where it is until somebody can.",
  capacity: "There is no grade without it: the cell waits until somebody can.",
  resistance: "The grade is then at most Fair, and never for high drain.",
};

/** How to go on where something cannot be measured here; of a resistance first how it can be, without a meter for it. */
export function SkipMeasurement({
  number,
  quantity,
  onSend,
}: {
  number: string;
  quantity: Quantity;
  onSend: (entry: EntryInput) => void;
}) {
  const [why, setWhy] = useState("");
  return (
    <Fold title={quantity === "resistance" ? "No resistance meter here?" : "It cannot be measured here?"}>
      {quantity === "resistance" && (
        <p>
          Any resistor that stands it will do, charger off. Choose Work it out, then Two voltages and a resistor: it
          says which resistor, and does the sum.
        </p>
      )}
      <Field label="Go on without, because" value={why} onChange={setWhy} hint={WITHOUT[quantity]} maxLength={300} />
      <Button
        waitsFor={why.trim().length < 3 ? "First say why, in a few words." : null}
        onPress={() => onSend({ to: "skips", body: { what: quantity, why } })}
      >
        Skip {quantity} of {number}
      </Button>
    </Fold>
  );
}
