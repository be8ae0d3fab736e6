import { useEffect, useState } from "react";
import { roomLeft, type RoomLeft } from "../../outbox/room";

const inMb = (bytes: number): string => `${Math.max(1, Math.round(bytes / 1024 / 1024)).toLocaleString()} MB`;

/** How much room the browser gives, and whether it may take it back. */
export function Room() {
  const [room, setRoom] = useState<RoomLeft | null>(null);
  useEffect(() => {
    void roomLeft().then(setRoom);
  }, []);
  if (!room) return null;
  return (
    <section aria-label="Room" className="card grid gap-2">
      <h2 className="text-xl">Room on this device</h2>
      <p>
        {inMb(room.used)} of {inMb(room.of)} are used.{" "}
        {room.isShort && (
          <strong className="text-clay">
            That is most of it: send what waits, and free some room before more pictures are taken.
          </strong>
        )}
      </p>
      <p className="text-faint">
        {room.isPersistent
          ? "The browser has promised to keep what lies here."
          : "The browser may clear what lies here when the device runs full. Put Still Pine on the home screen, and it keeps it."}
      </p>
    </section>
  );
}
