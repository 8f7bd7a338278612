/** Guests: who fills in sections of a request by a personal link, without an account. */
export { dropOldGuestLinks, linkAddress } from './links.ts';
export { guestRoutes } from './routes.ts';
export { dropOldGuestTyping } from './service.ts';
export { askedOf } from './views.ts';
