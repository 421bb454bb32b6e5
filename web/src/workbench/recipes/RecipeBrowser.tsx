import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { useSession } from '../../reel/session';
import { OpenLine } from '../fields/OpenLine';
import { begun } from '../../ui/sentence';
import { useTools } from '../tools/context';
import type { Wanted } from '../tools/leftTab';
import { OwnRecipes } from './OwnRecipes';
import { RecipeCard } from './RecipeCard';
import { ownFound } from './own';
import {
  firstAnswers,
  madeIn,
  recipes,
  recipesFound,
  type Answers,
  type Made,
  type Recipe,
} from './recipes';

/** Known jobs in one step: found by words, tried and used; what they made is opened again. */
export function RecipeBrowser({ wanted }: { wanted?: Wanted | undefined }) {
  const { reel } = useTools();
  const revision = useSession((s) => s.committed.revision);
  const [text, setText] = useState(wanted?.text ?? '');
  const [open, setOpen] = useState(wanted?.id);
  const asked = useDeferredValue(text.trim());
  const { data } = useQuery(recipes);
  const found = useQuery(recipesFound(asked));
  const own = useQuery(ownFound(asked));
  const { data: made } = useQuery(madeIn(reel, revision));
  const all = useQuery(ownFound('')).data ?? [];
  if (!data) return <p className="quiet">Loading…</p>;
  const byId = new Map(data.map((r) => [r.id, r]));
  const recipeOf = ({ recipe }: Made) =>
    byId.get(recipe ?? '') ??
    all.find((one) => one.recipe && one.recipe.id === recipe)?.recipe ??
    undefined;
  const shown = asked ? (found.data ?? []).flatMap((id) => byId.get(id) ?? []) : data;
  const toggle = (key: string) => setOpen(open === key ? undefined : key);
  return (
    <div className="sounds">
      <div className="shelf-head">
        <input
          className="go-to"
          type="search"
          aria-label="Search recipes"
          placeholder="ring out, phone, underwater …"
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
        />
      </div>
      {asked && found.data && shown.length === 0 && own.data?.length === 0 && (
        <p className="quiet">No recipe matches “{asked}”.</p>
      )}
      {!asked && made && made.length > 0 && (
        <section aria-label="Made in this reel">
          <h3 className="sounds-family">Made in this reel</h3>
          <ul>
            {made.map((one) => (
              <MadeLine
                key={one.id}
                made={one}
                recipe={recipeOf(one)}
                open={open === one.id}
                toggle={() => toggle(one.id)}
              />
            ))}
          </ul>
        </section>
      )}
      <OwnRecipes text={asked} open={open} wanted={wanted?.id} toggle={toggle} />
      {!asked && (
        <>
          <h3 className="sounds-family">All recipes</h3>
          <p className="quiet small">Save your own from a treatment, a clip or a range.</p>
        </>
      )}
      <ul>
        {shown.map((recipe) => (
          <OpenLine
            key={recipe.id}
            label={recipe.label}
            help={recipe.help}
            open={open === recipe.id}
            toggle={() => toggle(recipe.id)}
          >
            <RecipeCard
              recipe={recipe}
              answers={firstAnswers(recipe)}
              focused={wanted?.id === recipe.id}
              done={() => setOpen(undefined)}
            />
          </OpenLine>
        ))}
      </ul>
    </div>
  );
}

function MadeLine(props: {
  made: Made;
  recipe: Recipe | undefined;
  open: boolean;
  toggle: () => void;
}) {
  const { made, recipe, open, toggle } = props;
  const { clock } = useTools();
  const at = clock.timecode(Number(made.place['start'] ?? made.place['at'] ?? 0));
  return (
    <OpenLine label={made.label} help={at} open={open} toggle={toggle}>
      {made.recipe === null ? (
        <p className="quiet small">
          Its recipe is not among yours, so its answers stay as they are.
        </p>
      ) : made.touched.length > 0 ? (
        <p className="quiet small">
          {begun(made.touched.join(' and '))} of it was changed by hand since, so its answers stay
          as they are. Undo that to change them.
        </p>
      ) : (
        recipe && (
          <RecipeCard
            recipe={recipe}
            answers={{ ...firstAnswers(recipe), ...(made.answers as Answers) }}
            made={made}
            done={toggle}
          />
        )
      )}
    </OpenLine>
  );
}
