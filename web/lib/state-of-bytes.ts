/** A job's state from what the server sends: the same on the page and in the worker. */
import { withPlaces, type Delivered, type JobDefinition, type JobState } from "@bramble/core";
import { unpack } from "@bramble/core/math/pack";
import { decodeTable } from "@bramble/core/points/columns";

export function stateOfBytes(definition: JobDefinition & Pick<JobState, "intakes">, points: ArrayBuffer, delivered: ArrayBuffer | undefined): JobState {
  return withPlaces({ ...definition, delivered: delivered ? unpack<Delivered[]>(delivered) : definition.intakes.map(() => ({})), points: decodeTable(points) });
}
