import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import styled from "styled-components";
import { answer, api, once, type Schemas } from "../../api/client";
import { useInstruments } from "../../api/measuring";
import { useSession } from "../../api/queries";
import { useWrite } from "../../api/writing";
import { SoundSwitch } from "../../components/Alarms";
import { AskForm, useTyped } from "../../components/AskForm";
import { Button, ButtonLink } from "../../components/Button";
import { Field, LinesField } from "../../components/Fields";
import { Notice } from "../../components/Notice";
import { Page, Sheet, TwoColumns, Waiting } from "../../components/Page";
import { Pick } from "../../components/Pick";
import { PushSwitch } from "../../components/PushSwitch";
import { Tape } from "../../components/Tape";
import { TESTER_STATE_WORDS } from "../../words";
import { MAP_KEYS, mapOf, textOf } from "./mapText";
import { TryOut } from "./TryOut";

type Tester = Schemas["TesterOut"];

export const useTesters = () =>
  useQuery({ queryKey: ["testers"], queryFn: () => answer(() => api.GET("/api/testers")), refetchInterval: 5_000 });

/** Instruments on the wire and chargers without one: where they are, how they are spoken to, and trying that out. */
export default function TestersPage() {
  const testers = useTesters();
  const session = useSession();
  const [chosen, setChosen] = useState<Tester | "new" | "charger" | null>(null);
  const isCoordinator = session.data?.person?.role === "coordinator";
  return (
    <Page
      title="Testers on the wire"
      wide
      lead="A load, a supply, a meter or a tester that speaks lines over a cable runs whole programs by itself. Its own watchdog has to end its currents when we fall silent."
      actions={
        <ButtonLink to="/table" $kind="plain">
          On the testers
        </ButtonLink>
      }
    >
      {!testers.data ? (
        <Waiting query={testers} what="the testers" />
      ) : (
        <TwoColumns>
          <Sheet aria-label="What is on the wire">
            <List>
              {testers.data.testers.map((each) => (
                <li key={each.id}>
                  <Tape>{each.instrument}</Tape>
                  <div>
                    <strong>{each.name}</strong> {TESTER_STATE_WORDS[each.state]}
                    <Small>
                      {each.address}
                      {each.identity && <>, calls itself “{each.identity}”</>}
                    </Small>
                    {each.state === "here" && !each.has_watchdog && (
                      <Notice kind="ask">
                        No watchdog that works: it discharges and measures, it charges nothing.
                      </Notice>
                    )}
                    {each.trouble && <Small>{each.trouble}</Small>}
                  </div>
                  {isCoordinator && (
                    <Button kind="quiet" onPress={() => setChosen(each)}>
                      Change, try out
                    </Button>
                  )}
                </li>
              ))}
            </List>
            {testers.data.testers.length === 0 && <p>None yet.</p>}
            {isCoordinator ? (
              <Row>
                <Button kind={testers.data.testers.length ? "plain" : "main"} onPress={() => setChosen("new")}>
                  Put an instrument on the wire
                </Button>
                <Button onPress={() => setChosen("charger")}>A charger without a wire</Button>
              </Row>
            ) : (
              <p>A coordinator puts instruments on the wire.</p>
            )}
            <SoundSwitch />
            <PushSwitch />
          </Sheet>
          {chosen === "charger" ? (
            <ChargerForm onDone={() => setChosen(null)} />
          ) : chosen ? (
            <TesterForm
              key={chosen === "new" ? "new" : `${chosen.id}-${chosen.version}`}
              known={chosen === "new" ? null : chosen}
              told={testers.data}
              onDone={() => setChosen(null)}
            />
          ) : (
            <HowTo />
          )}
        </TwoColumns>
      )}
    </Page>
  );
}

function TesterForm({
  known,
  told,
  onDone,
}: {
  known: Tester | null;
  told: Schemas["TestersOut"];
  onDone: () => void;
}) {
  const instruments = useInstruments();
  const [link, setLink] = useState<Tester["link"]>(known?.link ?? "scpi");
  const typed = useTyped({
    instrument: known?.instrument ?? "",
    address: known?.address ?? told.ports[0]?.address ?? "",
    channels: "1",
    max_charge_ma: "1000",
    max_discharge_ma: "1000",
    resistor_ohm: known?.resistor_ohm?.toString() ?? "",
  });
  const [map, setMap] = useState(() => textOf(known?.mapping ?? told.example));
  const body = {
    instrument: typed.values.instrument,
    link,
    address: typed.values.address,
    mapping: link === "scpi" ? mapOf(map) : {},
    channels: Number(typed.values.channels) || 1,
    max_charge_ma: Number(typed.values.max_charge_ma.replace(",", ".")) || 0,
    max_discharge_ma: Number(typed.values.max_discharge_ma.replace(",", ".")) || 0,
    resistor_ohm: Number(typed.values.resistor_ohm.replace(",", ".")) || null,
  };
  const save = useWrite(
    ({ isActive }: { isActive: boolean }, key) =>
      answer<Tester>(() =>
        known
          ? api.PUT("/api/testers/{tester_id}", {
              params: { path: { tester_id: known.id } },
              body: { ...body, version: known.version, is_active: isActive },
              headers: once(key),
            })
          : api.POST("/api/testers", { body, headers: once(key) }),
      ),
    onDone,
  );
  return (
    <Sheet aria-label={known ? known.name : "Another instrument"}>
      <Stack
        problem={save.error}
        standsAt={{ number: "instrument" }}
        send={known ? "Keep the change" : "Put it on the wire"}
        isSending={save.isPending}
        onSend={() => save.mutate({ isActive: true })}
        besides={
          <>
            {known && (
              <Button onPress={() => save.mutate({ isActive: !known.is_active })} isDisabled={save.isPending}>
                {known.is_active ? "Put it away" : "Take it back into use"}
              </Button>
            )}
            <Button kind="quiet" onPress={onDone}>
              Leave it
            </Button>
          </>
        }
      >
        <Field
          label="Number of the instrument"
          {...typed.field("instrument")}
          maxLength={20}
          hint={`As on its tape. Known: ${instruments.data?.instruments.map((each) => `${each.number} ${each.name}`).join(", ") || "none"}`}
        />
        <Pick
          label="How it speaks"
          value={link}
          onChange={setLink}
          options={[
            ["scpi", "It answers lines (SCPI)"],
            ["lines", "It prints lines by itself"],
          ]}
        />
        <Field
          label="Address"
          {...typed.field("address")}
          maxLength={120}
          hint={
            told.ports.length
              ? `Plugged in here: ${told.ports.map((port) => `${port.address} (${port.name})`).join(", ")}`
              : "TCPIP::192.168.1.20::5025::SOCKET over the network; nothing is plugged in here"
          }
        />
        {!known && (
          <Grid>
            <Field label="Channels" numeric {...typed.field("channels")} maxLength={2} />
            <Field label="Charges with" unit="mA" numeric {...typed.field("max_charge_ma")} maxLength={6} />
            <Field label="Discharges with" unit="mA" numeric {...typed.field("max_discharge_ma")} maxLength={6} />
          </Grid>
        )}
        {link === "lines" ? (
          <Field
            label="Resistor it discharges through"
            unit="Ω"
            numeric
            {...typed.field("resistor_ohm")}
            maxLength={8}
            hint="Leave it out where it prints volts and amperes"
          />
        ) : (
          <details open={!known}>
            <summary>What is sent to it</summary>
            <Maps>
              {MAP_KEYS.map(([key, label, hint]) => (
                <LinesField
                  key={key}
                  label={label}
                  hint={hint}
                  value={map[key] ?? ""}
                  onChange={(value) => setMap((before) => ({ ...before, [key]: value }))}
                  maxLength={1500}
                />
              ))}
            </Maps>
          </details>
        )}
      </Stack>
      {known && link === "scpi" && <TryOut tester={known} />}
    </Sheet>
  );
}

function HowTo() {
  return (
    <Sheet aria-label="How to wire one">
      <h2>How to wire one</h2>
      <Steps>
        <li>Give the instrument a number under Meters and testers, and put its tape on it.</li>
        <li>Plug it in, or note its address in the network. What is plugged in here is found by itself.</li>
        <li>Say what is sent to it. The lines stand in its manual; try each out before a cell lies in it.</li>
        <li>Set a current limit in the instrument itself that its slot bears, whatever we send.</li>
        <li>Pull the cable while a resistor hangs on it: its current has to end within ten seconds.</li>
        <li>Stick the number of each slot beside it. From then on slot and cell are scanned.</li>
      </Steps>
    </Sheet>
  );
}

function ChargerForm({ onDone }: { onDone: () => void }) {
  const typed = useTyped({ name: "", max_charge_ma: "500" });
  const save = useWrite(
    (_: null, key) =>
      answer(() =>
        api.POST("/api/slots", {
          body: { name: typed.values.name, max_charge_ma: Number(typed.values.max_charge_ma.replace(",", ".")) || 0 },
          headers: once(key),
        }),
      ),
    onDone,
  );
  return (
    <Sheet aria-label="A charger without a wire">
      <Stack problem={save.error} send="Give it a number" isSending={save.isPending} onSend={() => save.mutate(null)}>
        <Field label="What it is called here" {...typed.field("name")} maxLength={60} autoFocus />
        <Field label="Charges with" unit="mA" numeric {...typed.field("max_charge_ma")} maxLength={6} />
        <p>
          Nobody can ask it. It gets the same clocks: when it should be done, when it is overdue, and that somebody
          looks.
        </p>
      </Stack>
    </Sheet>
  );
}

const List = styled.ul`
  display: grid;
  gap: var(--apart);
  margin-bottom: var(--block);
  li { display: grid; grid-template-columns: 6.5rem minmax(0, 1fr) auto; gap: var(--apart); align-items: start; justify-items: start; }
  ${({ theme }) => theme.narrow} { li { grid-template-columns: minmax(0, 1fr); } }
`;
const Small = styled.div`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; overflow-wrap: anywhere;`;
const Steps = styled.ol`display: grid; gap: var(--near); margin-top: var(--near); padding-left: 1.2em; list-style: decimal;`;
const Row = styled.div`display: flex; flex-wrap: wrap; gap: var(--near); margin-bottom: var(--block);`;
const Stack = styled(AskForm)`display: grid; gap: var(--apart);`;
const Grid = styled.div`display: grid; grid-template-columns: repeat(auto-fit, minmax(8rem, 1fr)); gap: var(--apart); align-items: start;`;
const Maps = styled.div`
  display: grid;
  gap: var(--apart);
  margin-top: var(--near);
  textarea { font-family: ${({ theme }) => theme.font.figure}; font-size: 0.875rem; }
`;
