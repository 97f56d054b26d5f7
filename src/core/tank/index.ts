export * from './net-volume';
