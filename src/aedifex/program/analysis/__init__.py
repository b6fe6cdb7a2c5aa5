"""Questions on a program that follow its data: effects, flow, values, identity, members."""
