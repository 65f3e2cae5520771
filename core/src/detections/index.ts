// Recorded detections: NDJSON in time order, one frame, change of mode, report of a sensor or coming and going of a person a line.

export * from './lines';
export { newFrameReader, readFrame, type FrameReader } from './fast';
export { newPacker, pack, packed, unpack, type Packed, type Packer } from './packed';
