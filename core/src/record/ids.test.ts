import { expect, expectTypeOf, it } from "vitest";
import type { EventOf, FoldedOuting, Horse, HorseId, OutingId, StepId, YardId } from ".";
import type { Step } from "../programs";

it("is text, and of one kind: another kind's does not compile in its place, plain text does", () => {
  const plain: string = "h-1";
  const horse: HorseId = plain;
  expect(horse).toBe("h-1");
  expectTypeOf<string>().toExtend<HorseId>();
  expectTypeOf<HorseId>().toExtend<string>();
  expectTypeOf<OutingId>().not.toExtend<HorseId>();
  expectTypeOf<YardId>().not.toExtend<OutingId>();
  expectTypeOf<Horse["id"]>().not.toExtend<StepId>();
  expectTypeOf<FoldedOuting["id"]>().not.toExtend<HorseId>();
  expectTypeOf<EventOf<"ask">["step"]>().not.toExtend<HorseId>();
  expectTypeOf<Step["id"]>().toExtend<EventOf<"ask">["step"]>();
});
