// Foreign forms of detections and events, turned into ours at the border and nowhere else.

export { writeAlertEvent, type AlertNotified } from './alert-event';
export { cameraEventSchema, frameOfEvent, readCameraEvent, writeCloudEvent, type CameraEvent } from './camera-event';
export { readCocoAnnotations, readCocoResults, writeCocoAnnotations, writeCocoResults, type CocoImage } from './coco';
export { readMot, writeMot, type MotSetting } from './mot';
export { readNotifications, readOnvifEvents, writeOnvifEvent, type CameraReport, type ReportKind } from './onvif-events';
export {
  actions,
  addressedTo,
  ask,
  readCapabilities,
  readHasInfrared,
  readInformation,
  readProfiles,
  readRelays,
  readSoap,
  readSubscription,
  readTime,
  readUri,
  soapRequest,
  type DeviceInformation,
  type MediaProfile,
  type UsernameToken,
} from './onvif-device';
export { readOnvifMetadata, writeOnvifMetadata, type Metadata } from './onvif-metadata';
export { boxOfRow } from './rows';
export { allOf, type Element } from './xml';
export { discoveryGroup, readProbeMatches, writeProbe, type FoundDevice } from './ws-discovery';
