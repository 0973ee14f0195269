import styled from "styled-components";
import type { Grade } from "../api/client";
import { GRADE_WORDS } from "../words";

const STROKES: Record<Grade, string> = {
  A: "M8 5v14M13 5v14M18 5v14",
  B: "M10 5v14M16 5v14",
  C: "M13 5v14",
  out: "M7 6l12 12M19 6L7 18",
  "not-yet": "M8 18.5v-5M13 18.5v-5M18 18.5v-5",
};

/** The end of a cell with pencil strokes on it: three strong, two fair, one gentle, a cross out. Always with its word. */
export function GradeMark({ grade, size = "plain" }: { grade: Grade; size?: "plain" | "large" }) {
  return (
    <Mark $grade={grade} $large={size === "large"}>
      <svg viewBox="0 0 26 24" aria-hidden="true">
        <circle
          cx="13"
          cy="12"
          r="11"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.6"
          strokeDasharray={grade === "not-yet" ? "3 3" : undefined}
        />
        <path
          d={STROKES[grade]}
          stroke="currentColor"
          strokeWidth="2.6"
          strokeLinecap="round"
          fill="none"
          transform="translate(13 12) scale(.78) translate(-13 -12)"
        />
      </svg>
      {GRADE_WORDS[grade]}
    </Mark>
  );
}

const Mark = styled.span<{ $grade: Grade; $large: boolean }>`
  display: inline-flex;
  align-items: center;
  gap: 0.35em;
  color: ${({ theme, $grade }) => theme.color.grade[$grade]};
  font-weight: 750;
  font-size: ${({ $large }) => ($large ? "2.5rem" : "inherit")};
  line-height: 1.15;
  white-space: nowrap;
  svg { width: 1.35em; height: 1.25em; flex: none; }
`;
