/** Eighteen months of requests, played through the core. */
export { demoNow, History, isSound, type PlayedRequest } from './play.ts';
export { digestOf, paperBytes } from './replies.ts';
