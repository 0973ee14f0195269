import { FigureForm } from "./FigureForm";
import { InspectForm } from "./InspectForm";
import type { Mode } from "./modes";
import { type FormProps, ReadingForm } from "./ReadingForm";
import { RecoveryForm } from "./RecoveryForm";
import { ChargeForm, DecideForm, OutBoxForm, RepairForm, ShelveForm, WaitNote } from "./StepForms";

/** The form for what is being entered. */
export function EntryForm({ mode, ...props }: FormProps & { mode: Mode }) {
  switch (mode) {
    case "inspect":
      return <InspectForm {...props} />;
    case "voltage":
      return <ReadingForm {...props} quantity="voltage" />;
    case "capacity":
    case "resistance":
      return <FigureForm {...props} quantity={mode} />;
    case "charge":
      return <ChargeForm {...props} />;
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
