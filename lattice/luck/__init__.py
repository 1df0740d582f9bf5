"""What the dice say: counter-based draws, never a state that is carried along."""
