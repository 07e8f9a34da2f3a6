"""Makes the network that hears where sounds begin (src/firn/core/ear/activation.npz) anew; see docs/ear.md."""
