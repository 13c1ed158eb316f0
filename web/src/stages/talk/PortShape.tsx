import type { Schemas } from "../../shared/api/types";

/** One opening of a housing as it looks from below: round for a gland, square for a socket, flat for a slot. */
export function PortShape({ port }: { port: Schemas["PortState"] }) {
  const used = port.on.length > 0;
  const shape =
    port.connector === "socket of eight" ? (
      <path d="M10 14h28v18H30v6H18v-6h-8z" />
    ) : port.connector === "slot" ? (
      <rect x="6" y="17" width="36" height="14" rx="3" />
    ) : port.connector === "aerial screw" ? (
      <path d="M24 8l14 8v16l-14 8-14-8V16z" />
    ) : (
      <circle cx="24" cy="24" r="17" />
    );
  return (
    <svg viewBox="0 0 48 48" width="48" height="48" aria-hidden="true" className={used ? "hole hole-used" : "hole"}>
      {shape}
      {used ? <circle className="cable" cx="24" cy="24" r="7" /> : <path className="cap" d="M16 24h16" />}
    </svg>
  );
}
