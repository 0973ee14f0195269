import type { ReactNode } from "react";
import styled from "styled-components";

/** A thing as it lies on the bench, in pencil lines; its name stands beside it. */
export function ThingPicture({ code }: { code: string }) {
  return (
    <Drawing viewBox="0 0 120 84" aria-hidden="true">
      {PICTURES[code]}
    </Drawing>
  );
}

const lyingCell = (x: number, y: number, width = 62) => (
  <>
    <rect x={x} y={y} width={width} height={22} rx={3} />
    <path d={`M${x + width} ${y + 6}h5v10h-5M${x + 9} ${y}v22`} />
  </>
);
const PICTURES: Record<string, ReactNode> = {
  cell: (
    <>
      {lyingCell(16, 54)}
      <rect x={70} y={6} width={38} height={36} rx={3} />
      <path d="M76 12h26v11H76zM84 33a5 5 0 1 0 10 0a5 5 0 1 0-10 0M70 36C40 34 22 40 16 60M108 36c8 8 0 24-22 28" />
    </>
  ),
  resistor: (
    <>
      <path d="M6 42h22M92 42h22" />
      <rect x={28} y={30} width={64} height={24} rx={2} />
      <path d="M40 30v24M50 30v24M60 30v24M80 30v24M42 20c-4-5 4-7 0-12M60 20c-4-5 4-7 0-12M78 20c-4-5 4-7 0-12" />
    </>
  ),
  module: (
    <>
      <rect x={22} y={16} width={70} height={52} rx={2} />
      <path d="M22 30H8v22h14M44 32h22v18H44zM40 36h4M40 41h4M40 46h4M66 36h4M66 41h4M66 46h4M92 30h18M92 54h18" />
      <circle cx={82} cy={24} r={3} />
      <circle cx={82} cy={60} r={3} />
    </>
  ),
  "usb-meter": (
    <>
      <rect x={28} y={20} width={62} height={44} rx={3} />
      <path d="M28 32H12v20h16M90 32h16v20H90M36 28h46v20H36zM42 38h8M54 38h8M66 38h8M42 56h6M54 56h6" />
    </>
  ),
  shelf: (
    <>
      <path d="M6 74h108" />
      {lyingCell(24, 50)}
      <circle cx={84} cy={24} r={16} />
      <path d="M84 14v10l8 5" />
    </>
  ),
  "two-cells": (
    <>
      {lyingCell(14, 12)}
      {lyingCell(14, 50)}
      <path d="M86 23h18v12M104 61H86M104 61v-12" />
      <path d="M100 35l8 3-8 4 8 3-8 4" />
    </>
  ),
  wire: (
    <>
      <path d="M8 34c24-26 40 24 62 2s30-10 42-22" />
      <path d="M8 40c24-26 40 24 62 2s30-10 42-22" />
      <path d="M10 60l88-8 14 6-88 8z" />
    </>
  ),
  testers: (
    <>
      <rect x={8} y={14} width={46} height={56} rx={3} />
      <rect x={66} y={14} width={46} height={56} rx={3} />
      <path d="M15 21h32v15H15zM73 21h32v15H73z" />
      <rect x={17} y={46} width={28} height={13} rx={2} />
      <rect x={75} y={46} width={28} height={13} rx={2} />
    </>
  ),
};

const Drawing = styled.svg`
  width: 100%;
  max-width: 7.5rem;
  fill: none;
  stroke: currentColor;
  stroke-width: 2.5;
  stroke-linejoin: round;
  stroke-linecap: round;
`;
