import { Menu } from '@mantine/core';
import { useMakeRecipe } from './own';

/** In the menu of a sheet: what is selected becomes a recipe. */
export function MakeItem({ name }: { name: string | undefined }) {
  const make = useMakeRecipe();
  return <Menu.Item onClick={() => make(name || 'Recipe')}>Save as a recipe</Menu.Item>;
}
