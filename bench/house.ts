/** The demo organisation as the benchmarks use it. */
import { indexDirectory } from '@north-pebble/core/people';
import { organisation as build } from '@north-pebble/demo';

export const organisation = build();
export const index = indexDirectory(organisation);
export const { patterns } = organisation;
