import { useState } from "react";
import styled from "styled-components";
import type { Entry, Story } from "../../api/client";
import { Button } from "../../components/Button";
import { dayAndTime, span } from "../../words";
import { CorrectForm } from "./CorrectForm";
import { type Point, pointsOf } from "./timeline";

const BAND_FROM_MS = 6 * 3600_000;

/** A cell's story as a line in time: what happened, and how long nothing did. */
export function Timeline({ story }: { story: Story }) {
  const [correcting, setCorrecting] = useState<number | null>(null);
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
                {canCorrect(point.entry) && correcting !== point.entry?.id && (
                  <Button kind="quiet" onPress={() => setCorrecting(point.entry?.id ?? null)}>
                    Correct
                  </Button>
                )}
                {point.entry && correcting === point.entry.id && (
                  <CorrectForm number={story.cell.number} entry={point.entry} onDone={() => setCorrecting(null)} />
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

function smallPrint(point: Point): string {
  const parts = [point.detail, point.by, point.why && `“${point.why}”`];
  if (point.state === "corrected") parts.unshift("corrected later");
  if (point.state === "withdrawn") parts.unshift("taken back");
  if (point.entry?.supersedes_id) parts.unshift("correction");
  return parts.filter(Boolean).join(" · ");
}

const Line = styled.ol`
  position: relative;
  padding-left: 1.5rem;
  &::before { content: ""; position: absolute; left: 7px; top: 8px; bottom: 8px; width: 3px; background: ${({ theme }) => theme.color.ink}; }
  > li { position: relative; }
`;
const Band = styled.div`
  display: flex;
  align-items: center;
  margin: 0.25rem 0;
  padding: 0 0.75rem;
  background: repeating-linear-gradient(90deg, ${({ theme }) => theme.color.mat} 0 10px, transparent 10px 14px);
  font-size: ${({ theme }) => theme.size.note};
  color: ${({ theme }) => theme.color.inkSoft};
  span { background: ${({ theme }) => theme.color.paper}; }
`;
const Item = styled.div<{ $kind: Point["kind"]; $gone: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: 8.25rem minmax(0, 1fr);
  gap: 0.5rem;
  padding: 0.375rem 0;
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
