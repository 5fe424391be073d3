"""What the child processes of the window do: draw and look at pictures, draw plans, compute light."""
