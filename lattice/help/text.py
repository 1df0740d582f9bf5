"""The help on words as one page of Markdown."""

from lattice.help.glossary import GLOSSARY
from lattice.help.words import help_words

__all__ = ["words_text"]


def words_text() -> str:
    """Return all words with what they mean, and how the sentence says them."""
    lines = ["# Words", ""]
    lines += [f"- **{word}**: {means}" for word, means, _ in GLOSSARY]
    group = ""
    for page in help_words():
        if page.group != group:
            group = page.group
            lines += [
                "",
                f"## {'What holds for a pattern' if group == 'pattern' else f'Of a lane: {group}'}",
                "",
            ]
        said = " / ".join(example.text for example in page.examples[:3])
        lines.append(f"- **{page.label}**: {page.explains} *{said}*")
    return "\n".join(lines) + "\n"
