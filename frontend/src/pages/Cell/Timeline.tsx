import { useState } from "react";
import styled from "styled-components";
import type { Entry, Session, Story } from "../../api/client";
import { useSession } from "../../api/queries";
import { Button } from "../../components/Button";
import { dayAndTime, span } from "../../words";
import { CorrectForm } from "./CorrectForm";
import { StrikeForm } from "./StrikeForm";
import { type Point, pointsOf } from "./timeline";

const BAND_FROM_MS = 6 * 3600_000;

/** A cell's story as a line in time: what happened, and how long nothing did. */
export function Timeline({ story }: { story: Story }) {
  const [open, setOpen] = useState<{ id: number; what: "correct" | "strike" } | null>(null);
  const session = useSession();
  const points = pointsOf(story);
  return (
    <Line aria-label="Story">
      {points.map((point, index) => {
        const before = points[index - 1];
        const gap = before ? new Date(point.at).getTime() - new Date(before.at).getTime() : 0;
        return (
          <li key={point.key}>
            {gap >= BAND_FROM_MS && (
              <Band style={{ minHeight: `${Math.min(96, 26 + 6 * Math.log2(gap / BAND_FROM_MS))}px` }}>
                {span(gap)}
              </Band>
            )}
            <Item $kind={point.kind} $gone={point.state !== "counts"}>
              <When dateTime={point.at}>{dayAndTime(point.at)}</When>
              <div>
                <Title $gone={point.state !== "counts"}>{point.title}</Title>
                <Small>{smallPrint(point)}</Small>
                {open?.id !== point.entry?.id && (
                  <Ways>
                    {canCorrect(point.entry) && (
                      <Button kind="quiet" onPress={() => setOpen({ id: point.entry?.id ?? 0, what: "correct" })}>
                        Correct
                      </Button>
                    )}
                    {canStrike(point.entry, session.data?.person ?? null) && (
                      <Button kind="quiet" onPress={() => setOpen({ id: point.entry?.id ?? 0, what: "strike" })}>
                        Strike out
                      </Button>
                    )}
                  </Ways>
                )}
                {point.entry && open?.id === point.entry.id && open.what === "correct" && (
                  <CorrectForm number={story.cell.number} entry={point.entry} onDone={() => setOpen(null)} />
                )}
                {point.entry && open?.id === point.entry.id && open.what === "strike" && (
                  <StrikeForm number={story.cell.number} entryId={point.entry.id} onDone={() => setOpen(null)} />
                )}
              </div>
            </Item>
          </li>
        );
      })}
    </Line>
  );
}

const canCorrect = (entry: Entry | null) => entry?.kind === "reading" && entry.state === "counts";

const STRUCK_BY_COORDINATORS = ["charge", "recovery", "repair", "skip"];

/** One's own figures; a coordinator also what others typed, found or did. */
function canStrike(entry: Entry | null, person: NonNullable<Session["person"]> | null): boolean {
  if (entry?.state !== "counts" || person === null) return false;
  if (person.role === "coordinator") return entry.kind !== "step" || STRUCK_BY_COORDINATORS.includes(entry.step ?? "");
  return entry.kind === "reading" && entry.by === person.name;
}

function smallPrint(point: Point): string {
  const parts = [point.detail, point.by, point.why && `“${point.why}”`];
  if (point.state === "corrected") parts.unshift("corrected later");
  if (point.state === "withdrawn") parts.unshift(point.struck ?? "taken back");
  if (point.entry?.supersedes_id) parts.unshift("correction");
  return parts.filter(Boolean).join(" · ");
}

const Ways = styled.div`display: flex; gap: var(--step);`;
const Line = styled.ol`
  position: relative;
  padding-left: var(--room);
  &::before { content: ""; position: absolute; left: 7px; top: 8px; bottom: 8px; width: 3px; background: ${({ theme }) => theme.color.ink}; }
  > li { position: relative; }
`;
const Band = styled.div`
  display: flex;
  align-items: center;
  margin: var(--hair) 0;
  padding: 0 var(--apart);
  background: repeating-linear-gradient(90deg, ${({ theme }) => theme.color.mat} 0 10px, transparent 10px 14px);
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.inkSoft};
  span { background: ${({ theme }) => theme.color.paper}; }
`;
const Item = styled.div<{ $kind: Point["kind"]; $gone: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: 8.25rem minmax(0, 1fr);
  gap: var(--near);
  padding: var(--slit) 0;
  opacity: ${({ $gone }) => ($gone ? 0.8 : 1)};
  &::before {
    content: "";
    position: absolute;
    left: -1.5rem;
    top: 0.7rem;
    width: 17px;
    height: 17px;
    border: 3px solid ${({ theme }) => theme.color.ink};
    border-radius: ${({ $kind }) => ($kind === "judge" ? "2px" : "50%")};
    background: ${({ theme, $kind }) => ($kind === "measure" ? theme.color.pencil : $kind === "judge" ? theme.color.tape : theme.color.paper)};
  }
  button { min-height: 30px; padding: 0; font-weight: 500; font-size: ${({ theme }) => theme.size.note}; }
  ${({ theme }) => theme.narrow} { grid-template-columns: minmax(0, 1fr); gap: 0; }
`;
const When = styled.time`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft}; padding-top: 0.1rem;`;
const Title = styled.p<{
  $gone: boolean;
}>`font-weight: 700; text-decoration: ${({ $gone }) => ($gone ? "line-through" : "none")};`;
const Small = styled.p`font-size: ${({ theme }) => theme.size.note}; color: ${({ theme }) => theme.color.inkSoft};`;
