"""What is drawn and dragged: Frame, plan, section, and what lies over them."""
