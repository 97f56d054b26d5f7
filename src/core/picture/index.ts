export * from './find-card';
export * from './ink';
export * from './leaflet';
export * from './marks';
export * from './perspective';
export * from './photo-marks';
export * from './pixels';
export * from './plunger';
