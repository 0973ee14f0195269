import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, type Schemas } from "../../api/client";
import { FAMILIES } from "../../api/codes";
import { AskForm, useTyped } from "../../components/AskForm";
import { Field, Tick } from "../../components/Fields";
import { Fold } from "../../components/Fold";
import { Quiet, Sheet, TwoColumns } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { Tape } from "../../components/Tape";
import { FAMILY_WORDS, figure } from "../../words";
import { Never } from "./Never";

type Device = Schemas["PoorDeviceIn"];
const SEATS: [Device["seat"], string][] = [
  ["tabs", "Welded tabs"],
  ["soldered", "Leads on tabs"],
  ["holder", "A holder"],
];

/** What is known of the device and its old cell; then the cells of the shelf that fit. */
export function StandIns() {
  const { values, field, set } = useTyped({
    size: "",
    family: "layered-oxide" as Device["family"],
    held_mah: "",
    seat: "tabs" as Device["seat"],
    ...{ full_v: "", draws_ma: "", peak_ma: "", charger_k_v: "", charger_ohm: "" },
  });
  const [hasSensor, setSensor] = useState(false);
  const [isProtected, setProtected] = useState(false);
  const look = useMutation({
    mutationFn: (body: Device) => answer(() => api.POST("/api/stand-ins", { body })),
  });
  const isMissing = values.size.trim() === "" || values.held_mah.trim() === "";
  return (
    <TwoColumns $below>
      <Sheet aria-label="The device and its old cell">
        <Ask
          problem={look.error}
          onSend={() => look.mutate({ ...values, has_sensor: hasSensor, counts_on_protection: isProtected })}
          send="What fits?"
          isSending={look.isPending}
          waitsFor={isMissing ? "First its size and what it held when it was new." : null}
        >
          <Field label="Size of the old cell" {...field("size")} maxLength={24} hint="18650, 603048, or 6 x 30 x 48" />
          <Field label="It held, when it was new" unit="mAh" numeric {...field("held_mah")} maxLength={12} />
          <Pick
            label="Its chemistry"
            value={values.family}
            onChange={(family) => set("family", family)}
            options={FAMILIES.map((each) => [each, FAMILY_WORDS[each]] as const)}
          />
          <Field label="Full at" unit="V" numeric {...field("full_v")} maxLength={6} hint="Empty: as its chemistry." />
          <Pick label="It sits in" value={values.seat} onChange={(seat) => set("seat", seat)} options={SEATS} />
          <Field
            label="The device takes, in the mean"
            unit="mA"
            numeric
            {...field("draws_ma")}
            maxLength={12}
            hint="May stay empty."
          />
          <Field label="And at most" unit="mA" numeric {...field("peak_ma")} maxLength={12} hint="May stay empty." />
          <Ticks>
            <Tick isSelected={hasSensor} onChange={setSensor}>
              A temperature sensor sits on the old cell
            </Tick>
            <Tick isSelected={isProtected} onChange={setProtected}>
              The old cell had a protection inside
            </Tick>
          </Ticks>
          <Fold title="Its charger's resistor">
            <Field
              label="Constant of its chip"
              unit="V"
              numeric
              {...field("charger_k_v")}
              maxLength={6}
              hint="1000 to 1200, in the sheet."
            />
            <Field label="Its resistor" unit="Ω" numeric {...field("charger_ohm")} maxLength={9} />
          </Fold>
        </Ask>
      </Sheet>
      {look.data ? (
        <Found found={look.data} />
      ) : (
        <Quiet>
          <h2>Which cell goes in?</h2>
          <p>Say what the old one was. What fits comes from what lies free on the shelf, the longest run first.</p>
          <p>
            Not here: phones and tools that talk to their pack, anything medical, anything that flies, e-bikes. Take
            those to a licensed workshop.
          </p>
        </Quiet>
      )}
    </TwoColumns>
  );
}

function Found({ found }: { found: Schemas["StandInsOut"] }) {
  const [best, ...others] = found.stand_ins;
  return (
    <Sheet aria-live="polite" aria-label="What fits">
      <Stack>
        {best ? (
          <>
            <div>
              <h2>This one runs longest</h2>
              <Times>
                {best.hours === null ? `${figure(best.times_as_long, 1)} times` : `${figure(best.hours, 1)} h`}
                <small>
                  {best.hours === null
                    ? "as long as the old cell when it was new"
                    : `${figure(best.times_as_long, 1)} times as long as the old cell when it was new`}
                </small>
              </Times>
            </div>
            <Line each={best} />
            {others.length > 0 && (
              <>
                <h3>These fit too</h3>
                <ul>
                  {others.map((each) => (
                    <li key={each.number}>
                      <Line each={each} />
                    </li>
                  ))}
                </ul>
              </>
            )}
          </>
        ) : (
          <h2>Nothing on the shelf fits.</h2>
        )}
        {found.left_out.length > 0 && (
          <p>
            Left out:{" "}
            {found.left_out
              .map((each) => `${each.cells} ${each.cells === 1 ? "cell" : "cells"}, ${each.why}`)
              .join("; ")}
            .
          </p>
        )}
        <Never aria-label="What must not be done">
          {found.never.map((each) => (
            <li key={each}>{each}</li>
          ))}
        </Never>
      </Stack>
    </Sheet>
  );
}

function Line({ each }: { each: Schemas["StandInOut"] }) {
  return (
    <div>
      <Row>
        <Tape size="small" to={`/cells/${each.number}`}>
          {each.number}
        </Tape>
        <span>
          {each.size_code}, {figure(each.capacity_mah)} mAh
          {each.resistor_ohm !== null && `, charger resistor ${figure(each.resistor_ohm)} Ω`}
        </span>
      </Row>
      {each.remarks.map((remark) => (
        <p key={remark}>{remark}</p>
      ))}
    </div>
  );
}

const Stack = styled.div`display: grid; gap: var(--apart);`;
const Ask = styled(
  AskForm,
)`display: grid; grid-template-columns: repeat(auto-fit, minmax(14rem, 1fr)); gap: var(--apart) var(--sheet); align-items: start; > button { grid-column: 1 / -1; justify-self: start; }`;
const Ticks = styled.div`grid-column: 1 / -1;`;
const Times = styled.p`
  font: 800 ${({ theme }) => theme.size.key}/1.1 ${({ theme }) => theme.font.figure};
  small { display: block; font: 500 1rem/1.4 ${({ theme }) => theme.font.text}; }
`;
const Row = styled.div`display: flex; flex-wrap: wrap; align-items: center; gap: var(--near);`;
