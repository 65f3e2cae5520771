export { ComeIn as default } from '../features/people/Join';
