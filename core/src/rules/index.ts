// Rules while they are being made: what one still lacks, what one might be made of what is there.

export { fieldLines, fieldsOfLines } from './field-lines';
export { lacksOf, type Lack, type RuleCamera, type RuleSite } from './lacks';
export { behaviourOf, othersLike, suggestionsOf, type Suggestion } from './suggestions';
export { filledIn, placeholders, unknownIn, type MessageValues, type Placeholder } from './message';
export { withZone, zoneOf, zonesOf } from './where';
