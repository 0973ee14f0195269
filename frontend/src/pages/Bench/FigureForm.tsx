import { useNavigate } from "react-router";
import { Switch } from "../../components/Fields";
import { LogDrop } from "../../components/LogDrop";
import { MethodForm } from "./MethodForm";
import { type FormProps, ReadingForm } from "./ReadingForm";
import { useRemembered } from "./remembered";
import { SkipMeasurement } from "./SkipMeasurement";

type From = "typed" | "worked" | "log";

/** A capacity or a resistance: typed as shown, worked out, or read from a log. */
export function FigureForm(props: FormProps & { quantity: "capacity" | "resistance" }) {
  const navigate = useNavigate();
  const [settings, remember] = useRemembered<{ from: From }>(`figure-${props.quantity}`, { from: "typed" });
  return (
    <>
      <Switch
        label="Where the figure comes from"
        value={settings.from}
        onChange={(from) => remember({ from })}
        options={[
          ["typed", "As shown"],
          ["worked", "Work it out"],
          ["log", "From a log"],
        ]}
      />
      {settings.from === "typed" && <ReadingForm {...props} />}
      {settings.from === "worked" && <MethodForm {...props} />}
      {settings.from === "log" && <LogDrop cell={props.cell.number} onTaken={(log) => navigate(`/logs/${log.id}`)} />}
      <SkipMeasurement number={props.cell.number} quantity={props.quantity} onSend={props.onSend} />
    </>
  );
}
