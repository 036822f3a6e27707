/** Who acts in this browser: what decisions, words and corrections are signed with. */
export function author(): string {
  return localStorage.getItem("author") ?? "console";
}

export function signAs(name: string) {
  if (name.trim()) localStorage.setItem("author", name.trim());
  else localStorage.removeItem("author");
}
