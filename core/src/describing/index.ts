// What an AI service is asked about a picture, and what can be used of its answer. Every answer is hostile until it is checked: it is text

export * from './request';
export { contentIn, refusalIn, wantsCompletionTokens, withoutThoughts } from './wire';
export { costOf, headersWith, servicesFor, spentWords, usageIn, defaultAtOnce, defaultSeconds, type Usage } from './services';
export { questionPrompt, questionGate, verdictOf, type RuleQuestion, type Verdict } from './gate';
export { searchPrompt, searchQuestion, queryIn, answerPrompt, answerQuestion, type FoundLine } from './asking';
export { promptOf, filledUp, isWanting, looksClosely } from './prompts';
export { looksAnswered, platesTogether, recognised, recognisedWords, type Recognised } from './known';
