export { fillWording, placeholders, startingWordings, type Placeholder, type Wording, type WordingError } from './wording';
export { maskContact } from './mask';
