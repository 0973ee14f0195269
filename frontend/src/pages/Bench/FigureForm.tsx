import { useNavigate } from "react-router";
import { Switch } from "../../components/Fields";
import { LogDrop } from "../../components/LogDrop";
import { useRemembered } from "../../components/useRemembered";
import { MethodForm } from "./MethodForm";
import { type FigureProps, ReadingForm } from "./ReadingForm";
import { SkipMeasurement } from "./SkipMeasurement";

type From = "typed" | "worked" | "log";

/** A capacity or a resistance: typed as shown, worked out, or read from a log. */
export function FigureForm(props: FigureProps & { quantity: "capacity" | "resistance" }) {
  const navigate = useNavigate();
  const again = props.again !== null;
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
      {(settings.from === "typed" || again) && <ReadingForm {...props} />}
      {settings.from === "worked" && !again && <MethodForm {...props} />}
      {settings.from === "log" && !again && (
        <LogDrop
          cell={props.number}
          onTaken={(log) => navigate(`/logs/${log.id}`, { state: { isAgain: log.is_again } })}
        />
      )}
      <SkipMeasurement number={props.number} quantity={props.quantity} onSend={props.onSend} />
    </>
  );
}
