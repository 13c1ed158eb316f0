import "./SwitchShape.css";
type Position = "ON" | "OFF" | null;

const SIZE_PX = 40;

/** A switch as it stands: its blade closed, open, or not said. */
export function SwitchShape({ position }: { position: Position }) {
  const end = position === "ON" ? "L31 20" : position === "OFF" ? "L29 9" : "M12 20L20 15";
  return (
    <svg className="switch-shape" width={SIZE_PX} height={SIZE_PX} viewBox="0 0 40 40" aria-hidden="true">
      <line x1="0" y1="20" x2="9" y2="20" />
      <line x1="31" y1="20" x2="40" y2="20" />
      <circle cx="9" cy="20" r="3" />
      <circle cx="31" cy="20" r="3" />
      <path d={`M9 20${end}`} className={position === null ? "blade-unsaid" : "blade"} />
    </svg>
  );
}
