import { useEffect, useRef } from "react";

/** Degrees from lying on its back from which a phone counts as face down, and as face up again. */
const FACE_DOWN = 140;
const FACE_UP = 60;

/** Calls `onTurn` when the phone was turned face down and up again. */
export function useFaceTurn(isOn: boolean, onTurn: () => void): void {
  const latest = useRef(onTurn);
  useEffect(() => {
    latest.current = onTurn;
  });
  useEffect(() => {
    if (!isOn) return undefined;
    let isDown = false;
    const listen = ({ beta, gamma }: DeviceOrientationEvent): void => {
      if (beta === null || gamma === null) return;
      const tilt = Math.max(Math.abs(beta), Math.abs(gamma));
      if (!isDown && Math.abs(beta) > FACE_DOWN) isDown = true;
      else if (isDown && tilt < FACE_UP) {
        isDown = false;
        latest.current();
      }
    };
    window.addEventListener("deviceorientation", listen);
    return () => window.removeEventListener("deviceorientation", listen);
  }, [isOn]);
}
