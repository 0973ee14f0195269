import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../../api/client";
import { FAMILIES } from "../../../api/codes";
import { useWrite } from "../../../api/writing";
import { RoomyForm, useTyped } from "../../../components/AskForm";
import { Field, Tick } from "../../../components/Fields";
import { Page, Sheet } from "../../../components/Page";
import { Pick } from "../../../components/Pick";
import { FAMILY_WORDS, readNumber } from "../../../words";

/** A pack made elsewhere, or before there was Zembric: what is known of it, as one that came back. */
export default function TakeInPage() {
  const navigate = useNavigate();
  const { values, field } = useTyped({ purpose: "", series: "2", parallel: "1", size_code: "18650", capacity_mah: "" });
  const [family, setFamily] = useState<string>("layered-oxide");
  const [volts, setVolts] = useState<Record<number, string>>({});
  const [looked, setLooked] = useState(false);
  const series = Math.min(Math.max(Math.round(readNumber(values.series) ?? 1), 1), 40);
  const take = useWrite(
    (body: Schemas["TakeInIn"], key) => answer(() => api.POST("/api/packs/taken-in", { headers: once(key), body })),
    (pack) => navigate(`/packs/${pack.number}`),
  );
  return (
    <Page
      title="Take in a pack from elsewhere"
      lead="With what is known of it. Then it is looked at and proved like any that came back."
    >
      <Sheet>
        <RoomyForm
          problem={take.error}
          isSending={take.isPending}
          send="Take it in"
          waitsFor={
            values.purpose.trim() && values.capacity_mah.trim() ? null : "What it is for, and what a cell holds."
          }
          onSend={() =>
            take.mutate({
              purpose: values.purpose,
              series,
              parallel: Math.round(readNumber(values.parallel) ?? 0) || 1,
              family,
              size_code: values.size_code,
              capacity_mah: values.capacity_mah,
              group_volts: Array.from({ length: series }, (_, at) => volts[at] ?? ""),
              looked_at: looked,
            })
          }
        >
          <Grid>
            <Field label="What it is for" {...field("purpose")} maxLength={120} />
            <Field label="Groups in series" unit="S" numeric {...field("series")} maxLength={2} />
            <Field label="Cells in each" unit="P" numeric {...field("parallel")} maxLength={2} />
            <Pick
              label="Its cells are"
              value={family}
              onChange={setFamily}
              options={FAMILIES.filter((each) => each !== "primary").map((each) => [each, FAMILY_WORDS[each]] as const)}
            />
            <Field label="Their size" {...field("size_code")} maxLength={40} hint="As printed, such as 18650." />
            <Field
              label="What one holds"
              unit="mAh"
              numeric
              {...field("capacity_mah")}
              maxLength={12}
              hint="As printed, or a careful guess; proving tells."
            />
          </Grid>
          <h2>Its groups, from minus on</h2>
          <Grid>
            {Array.from({ length: series }, (_, at) => (
              <Field
                key={at}
                label={`Group ${at + 1}`}
                unit="V"
                numeric
                value={volts[at] ?? ""}
                onChange={(next) => setVolts((before) => ({ ...before, [at]: next }))}
                maxLength={12}
                autoComplete="off"
              />
            ))}
          </Grid>
          <Tick isSelected={looked} onChange={setLooked}>
            I looked at it: nothing is swollen, leaking, hot, wet or broken
          </Tick>
        </RoomyForm>
      </Sheet>
    </Page>
  );
}

const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr)); gap: var(--apart); width: 100%; margin-bottom: var(--apart);`;
