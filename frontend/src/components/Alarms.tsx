import { useEffect, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { answer, api, once } from "../api/client";
import { useSession } from "../api/queries";
import { type Alarm, useAlarms } from "../api/testers";
import { useWrite } from "../api/writing";
import { ALARM_WORDS, clockTime } from "../words";
import { Button } from "./Button";
import { ProblemNotice } from "./Notice";
import { startSound } from "./sound";
import { Takeover } from "./Takeover";
import { Tape } from "./Tape";
import { useRemembered } from "./useRemembered";

const MOST_STRIPS = 2;
const TITLE_MS = 1_000;
const AGAIN_MS = 4_000;
const SHAKE = [400, 150, 400, 150, 400];

/** What is wrong on the testers, over every page: full width, in the title, by sound and shaking where that was allowed. */
export function Alarms() {
  const session = useSession();
  const alarms = useAlarms(Boolean(session.data?.person)).data?.alarms ?? [];
  useNoise(alarms[0]?.id ?? null, alarms[0] ? `${ALARM_WORDS[alarms[0].code]} ${alarms[0].slot ?? ""}` : "");
  const danger = alarms.find((alarm) => alarm.is_danger);
  const strips = alarms.filter((alarm) => alarm !== danger);
  const [showsAll, setShowsAll] = useState(false);
  return (
    <>
      {danger && (
        <Takeover>
          <Danger>
            <h1>{ALARM_WORDS[danger.code]}</h1>
            <Where alarm={danger} />
            <p>{danger.said}</p>
            <Answer alarm={danger} word="I see to it" isLarge />
          </Danger>
        </Takeover>
      )}
      {strips.slice(0, showsAll ? strips.length : MOST_STRIPS).map((alarm) => (
        <Strip key={alarm.id} role="alert">
          <div>
            <strong>{ALARM_WORDS[alarm.code]}</strong> <Where alarm={alarm} />
            <p>
              {alarm.said} <small>{clockTime(alarm.at)}</small>
            </p>
          </div>
          <Answer alarm={alarm} word="I see to it" />
        </Strip>
      ))}
      {strips.length > MOST_STRIPS && !showsAll && (
        <Strip>
          <Button kind="quiet" onPress={() => setShowsAll(true)}>
            {strips.length - MOST_STRIPS} more alarms
          </Button>
        </Strip>
      )}
    </>
  );
}

function Where({ alarm }: { alarm: Alarm }) {
  return (
    <span>
      {alarm.slot && <Link to={`/table/${alarm.slot}`}>{alarm.slot_name}</Link>}{" "}
      {alarm.cell && (
        <Tape size="small" to={`/cells/${alarm.cell}`}>
          {alarm.cell}
        </Tape>
      )}
    </span>
  );
}

function Answer({ alarm, word, isLarge = false }: { alarm: Alarm; word: string; isLarge?: boolean }) {
  const say = useWrite((_: null, key) =>
    answer(() =>
      api.POST("/api/alarms/{alarm_id}/answer", {
        params: { path: { alarm_id: alarm.id } },
        body: { done: "" },
        headers: once(key),
      }),
    ),
  );
  return (
    <span>
      <Button kind={isLarge ? "danger" : "plain"} onPress={() => say.mutate(null)} isDisabled={say.isPending}>
        {word}
      </Button>
      <ProblemNotice problem={say.error} />
    </span>
  );
}

/** The title blinks, the device sounds and shakes until somebody answers; sound only where it was allowed on this device. */
function useNoise(id: number | null, text: string): void {
  const [sound] = useRemembered("alarm-sound", { isOn: false });
  useEffect(() => {
    if (id === null) return;
    const before = document.title;
    let isShown = false;
    const timer = setInterval(() => {
      isShown = !isShown;
      document.title = isShown ? `! ${text}` : before;
    }, TITLE_MS);
    const noise = () => {
      if (sound.isOn) startSound();
      // A device that cannot shake has no such thing.
      if (navigator.userActivation?.hasBeenActive) navigator.vibrate?.(SHAKE);
    };
    noise();
    const again = setInterval(noise, AGAIN_MS);
    return () => {
      clearInterval(timer);
      clearInterval(again);
      document.title = before;
    };
  }, [id, text, sound.isOn]);
}

/** Allows the sound on this device: a browser plays none before somebody asked for it. */
export function SoundSwitch() {
  const [sound, setSound] = useRemembered("alarm-sound", { isOn: false });
  const [isHeard, setHeard] = useState(false);
  return (
    <p>
      <Button
        onPress={() => {
          if (!sound.isOn) {
            startSound();
            setHeard(true);
          }
          setSound({ isOn: !sound.isOn });
        }}
      >
        {sound.isOn ? "Alarms sound here: turn it off" : "Let alarms sound on this device"}
      </Button>
      {isHeard && sound.isOn && " That was it."}
    </p>
  );
}

const Danger = styled.div`
  display: grid;
  gap: var(--block);
  justify-items: start;
  max-width: 44rem;
  margin: 0 auto;
  padding: var(--wide) var(--room);
  h1 { font-size: ${({ theme }) => theme.size.key}; line-height: 1.05; color: ${({ theme }) => theme.color.danger}; }
  p { font-size: ${({ theme }) => theme.size.lead}; }
`;
const Strip = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: var(--near) var(--room);
  padding: var(--apart) var(--room);
  border-bottom: 3px solid ${({ theme }) => theme.color.danger};
  background: ${({ theme }) => theme.color.dangerPaper};
  strong { font-size: ${({ theme }) => theme.size.lead}; }
`;
