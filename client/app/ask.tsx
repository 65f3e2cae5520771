export { Ask as default } from '../features/ask/Ask';
