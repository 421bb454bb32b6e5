import { Button, Checkbox } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { client, unwrap } from '../../api/client';
import { OpenLine } from '../fields/OpenLine';
import { TypedField } from '../fields/TypedField';
import { Favourite, KeptTools, KeptWords } from '../presets/Kept';
import { attempt, useRefresh } from '../presets/changing';
import { formatValue } from '../values/values';
import { RecipeCard } from './RecipeCard';
import {
  ownFound,
  relabelled,
  toggled,
  valuesOf,
  type OwnRecipe,
  type OwnValue,
  type Question,
} from './own';
import { firstAnswers } from './recipes';

interface Props {
  text: string;
  open: string | undefined;
  /** What the shelf was opened at. */
  wanted: string | undefined;
  toggle: (id: string) => void;
}

/** Recipes of one's own, and those that colleagues share. */
export function OwnRecipes({ text, open, wanted, toggle }: Props) {
  const { data } = useQuery(ownFound(text));
  if (!data || data.length === 0) return null;
  return (
    <section aria-label="Your recipes">
      <h3 className="sounds-family">Yours</h3>
      <ul>
        {data.map((own) => (
          <OwnLine
            key={own.preset.id}
            own={own}
            open={open === own.preset.id}
            focused={wanted === own.preset.id}
            toggle={() => toggle(own.preset.id)}
          />
        ))}
      </ul>
    </section>
  );
}

function OwnLine(props: { own: OwnRecipe; open: boolean; focused: boolean; toggle: () => void }) {
  const { own, open, focused, toggle } = props;
  const { preset, recipe } = own;
  const [changing, setChanging] = useState(false);
  const help = [preset.by && `from ${preset.by}`, recipe?.help, ...preset.tags];
  return (
    <OpenLine
      label={preset.name}
      help={help.filter(Boolean).join(' · ')}
      open={open}
      toggle={toggle}
      after={<Favourite preset={preset} />}
    >
      {recipe ? (
        // Other questions have other answers.
        <RecipeCard
          key={JSON.stringify(recipe.questions)}
          recipe={recipe}
          answers={firstAnswers(recipe)}
          focused={focused}
          done={toggle}
        />
      ) : (
        <p className="quiet small">This version knows none of its effects and sounds.</p>
      )}
      <div className="sound-body">
        {preset.by === '' && recipe && (
          <Questions own={own} changing={changing} change={() => setChanging(!changing)} />
        )}
        <KeptWords preset={preset} />
        <span className="sound-tools">
          <KeptTools preset={preset} />
        </span>
      </div>
    </OpenLine>
  );
}

/** Which of its values it asks for, and in which words. */
function Questions(props: { own: OwnRecipe; changing: boolean; change: () => void }) {
  const { own, changing, change } = props;
  const { preset } = own;
  const { data: values = [] } = useQuery(valuesOf(preset.id));
  // What one has just chosen, until the server has it.
  const [chosen, setChosen] = useState<Question[]>();
  const newest = useRef<Question[]>(undefined);
  const questions = chosen ?? own.questions;
  const refresh = useRefresh();
  const keep = (next: Question[]) => {
    newest.current = next;
    setChosen(next);
    attempt(async () => {
      try {
        const path = { params: { path: { id: preset.id } } };
        const body = { questions: next };
        await unwrap(client.PUT('/api/recipes/own/{id}/questions', { ...path, body }));
        if (newest.current === next) await refresh();
      } finally {
        if (newest.current === next) setChosen(undefined);
      }
    });
  };
  const asking = (value: OwnValue) => questions.find((q) => q.asks.includes(value.path));
  const shown = values.filter((value) => changing || value.telling || asking(value));
  const owners = [...new Set(shown.map((value) => value.of))];
  return (
    <fieldset className="asked">
      <legend className="small">What it asks</legend>
      {owners.map((of) => (
        <div key={of}>
          <p className="quiet small">{of}</p>
          {shown
            .filter((value) => value.of === of)
            .map((value) => {
              const question = asking(value);
              return (
                <div key={value.path} className="asked-row">
                  <Checkbox
                    size="xs"
                    label={value.parameter.label}
                    checked={question !== undefined}
                    onChange={() => keep(toggled(questions, value))}
                  />
                  {question ? (
                    <TypedField
                      className="text-field"
                      label={`What ${value.parameter.label} is called`}
                      shown={question.label}
                      read={(text) => ({ value: text.trim() })}
                      keep={(label) => label && keep(relabelled(questions, question, label))}
                    />
                  ) : (
                    <span className="quiet small number">{valueText(value)}</span>
                  )}
                </div>
              );
            })}
        </div>
      ))}
      {(changing || shown.length < values.length) && (
        <Button size="compact-xs" variant="default" onClick={change}>
          {changing ? 'Fewer values' : `All ${values.length} values`}
        </Button>
      )}
    </fieldset>
  );
}

function valueText({ parameter: p }: OwnValue): string {
  const value = p.default ?? p.low;
  return p.choices.length ? (p.choices[Math.round(value)] ?? '') : formatValue(p, value);
}
