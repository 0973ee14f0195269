import type { Cell } from "../../api/client";
import { FigureForm } from "./FigureForm";
import { InspectForm } from "./InspectForm";
import type { Mode } from "./modes";
import { type FormProps, ReadingForm } from "./ReadingForm";
import { RecoveryForm } from "./RecoveryForm";
import { ChargeForm, DecideForm, OutBoxForm, RepairForm, ShelveForm, WaitNote } from "./StepForms";

/** The form for what is being entered. Of a number that is not known yet only a figure can be typed. */
export function EntryForm({ mode, cell, ...rest }: Omit<FormProps, "cell"> & { cell: Cell | null; mode: Mode }) {
  if (mode === "voltage") return <ReadingForm {...rest} cell={cell} quantity="voltage" />;
  if (mode === "capacity" || mode === "resistance") return <FigureForm {...rest} cell={cell} quantity={mode} />;
  if (mode === "charge") return <ChargeForm {...rest} />;
  if (cell === null) return null;
  const props = { ...rest, cell };
  switch (mode) {
    case "inspect":
      return <InspectForm {...props} />;
    case "recover":
      return <RecoveryForm {...props} />;
    case "repair":
      return <RepairForm {...props} />;
    case "shelve":
      return <ShelveForm {...props} />;
    case "decide":
      return <DecideForm {...props} />;
    case "out-box":
      return <OutBoxForm {...props} />;
    case "wait":
      return <WaitNote />;
  }
}
