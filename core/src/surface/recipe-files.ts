/** Files that a surface's recipe names: for its own surface, and for lines that are breaklines or are none. */
import type { LineWanted, SurfaceRecipe } from "./model";

export function filesOf(s: SurfaceRecipe): string[] {
  const { also = [], except = [] } = s.breaklines ?? {};
  return [
    ...(s.file === undefined ? [] : [s.file]),
    ...[...also, ...except].flatMap((x) => ("file" in x ? x.file : [])),
  ];
}

/** The recipe with its files called otherwise. */
export function withFiles(s: SurfaceRecipe, call: (file: string) => string): SurfaceRecipe {
  if (filesOf(s).length === 0) return s;
  const line = <X extends LineWanted | object>(x: X): X => ("file" in x ? { ...x, file: call(x.file as string) } : x),
    { also, except, ...rest } = s.breaklines ?? {};
  return {
    ...s,
    ...(s.file === undefined ? {} : { file: call(s.file) }),
    ...(s.breaklines
      ? {
          breaklines: {
            ...rest,
            ...(also ? { also: also.map(line) } : {}),
            ...(except ? { except: except.map(line) } : {}),
          },
        }
      : {}),
  };
}
