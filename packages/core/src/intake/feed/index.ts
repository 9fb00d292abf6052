export { feedOver, type Feed, type FeedEstate, type FeedGroup, type FeedOutcome, type FeedPerson, type Link } from './feed.js';
