"""Makes the networks that hear where sounds begin (activation.npz and weighing.npz) anew; see docs/ear.md."""
