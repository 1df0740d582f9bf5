"""What the words of the instrument mean, each with a small score that shows and plays it."""

from lattice.help.glossary import GLOSSARY, Term
from lattice.help.text import words_text
from lattice.help.words import BASES, Example, HelpWord, help_words

__all__ = ["BASES", "GLOSSARY", "Example", "HelpWord", "Term", "help_words", "words_text"]
