// The check before alerting: the question, how long to wait for the answer, and what happens without one.

import { View } from 'react-native';
import type { Rule } from '@nibber/core/site';
import { Amount } from '../../../ui/Amount';
import { Check, OneOf } from '../../../ui/Choices';
import { Field } from '../../../ui/Field';
import { Button, Row } from '../../../ui/Surface';
import { Words } from '../../../ui/Words';
import type { PartProps } from './props';
import { texts } from '../words';

type Question = NonNullable<Rule['question']>;
const usual: Pick<Question, 'seconds' | 'onTimeout'> = { seconds: 8, onTimeout: 'send' };

export function QuestionPart({ rule, change }: PartProps) {
  const question = rule.question;
  const set = (next: Partial<Question>) => change(withQuestion(rule, { ...usual, ...question, ...next }));
  return (
    <View style={{ gap: 8 }}>
      <Field
        label={texts.yesOrNoQuestion}
        value={question?.words ?? ''}
        onChangeText={(words) => set({ words: words.slice(0, 300) })}
        multiline
        help={texts.isSomeoneAtTheDoor}
        testID="question-words"
      />
      {question?.words ? (
        <OneOf
          label={texts.alertOnThisAnswer}
          choices={[
            { value: 'yes', words: texts.alertIfYes, testID: 'question-if-yes' },
            { value: 'no', words: texts.alertIfNo, testID: 'question-if-no' },
          ]}
          value={question.alertIf ?? 'yes'}
          choose={(alertIf) => set({ alertIf: alertIf as 'yes' | 'no' })}
        />
      ) : null}
      <Check
        words={texts.skipIfKnown}
        detail={texts.byPlateOrByA}
        checked={question?.unlessKnown === true}
        press={() => set({ unlessKnown: !question?.unlessKnown })}
        testID="question-unless-known"
      />
      {question && (
        <>
          <Amount
            name={texts.maximumWait}
            says={texts.theAlertWaitsForThe}
            value={question.seconds}
            shown={`${question.seconds} s`}
            min={1}
            max={60}
            step={1}
            put={(seconds) => set({ seconds })}
            testID="question-seconds"
          />
          <Words bold>{texts.withoutAnAnswer}</Words>
          <OneOf
            label={texts.withoutAnAnswer}
            choices={[
              { value: 'notify', words: texts.sendAnyway, testID: 'question-timeout-send' },
              { value: 'hold back', words: texts.doNotSend, testID: 'question-timeout-hold' },
            ]}
            value={question.onTimeout}
            choose={(onTimeout) => set({ onTimeout: onTimeout as Question['onTimeout'] })}
          />
          <Row>
            <Button words={texts.removeThisCheck} onPress={() => change(withQuestion(rule, undefined))} testID="question-none" />
          </Row>
        </>
      )}
    </View>
  );
}

/** Without what says nothing. */
export function withQuestion(rule: Rule, question: Question | undefined): Rule {
  const { question: _old, ...rest } = rule;
  if (!question || (!question.words && !question.unlessKnown)) return rest as Rule;
  const { words, alertIf, unlessKnown, seconds, onTimeout } = question;
  const asked = words ? { words, ...(alertIf === 'no' ? { alertIf } : {}) } : {};
  return { ...rest, question: { ...asked, ...(unlessKnown ? { unlessKnown } : {}), seconds, onTimeout } } as Rule;
}
