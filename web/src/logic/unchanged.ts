/** What the server answered last at each address, so that it need not send again what has not changed. */
export interface Unchanged {
  /** The mark of the answer that is held for an address; nothing where none is. */
  markOf: (address: string) => string | null;
  hold: (address: string, mark: string, body: string) => void;
  /** The answer held under this mark; nothing where it has gone meanwhile. */
  held: (address: string, mark: string) => string | null;
  /** Somebody else is signed in now. */
  forget: () => void;
}

interface Answer {
  mark: string;
  body: string;
}

/** Hold answers of up to so many characters together; those asked for longest ago go first. */
export function holdAnswers(most: number): Unchanged {
  const answers = new Map<string, Answer>();
  let length = 0;
  const drop = (address: string) => {
    length -= answers.get(address)?.body.length ?? 0;
    answers.delete(address);
  };
  return {
    markOf: (address) => answers.get(address)?.mark ?? null,
    hold(address, mark, body) {
      drop(address);
      if (body.length > most) return;
      answers.set(address, { mark, body });
      length += body.length;
      for (const oldest of answers.keys()) {
        if (length <= most) break;
        drop(oldest);
      }
    },
    held(address, mark) {
      const answer = answers.get(address);
      if (answer?.mark !== mark) return null;
      answers.delete(address); // and to the end of the row: asked for just now
      answers.set(address, answer);
      return answer.body;
    },
    forget() {
      answers.clear();
      length = 0;
    },
  };
}
