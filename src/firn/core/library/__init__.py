"""The library of steps: finding cards by word and by rhythm, and telling two of them apart."""
