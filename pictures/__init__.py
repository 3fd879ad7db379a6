"""What is drawn: geometry in drawing units, computed and tested here, placed by templates.

Side view, view from above, load pads, tapes, outlines. Nothing of it takes part in a
figure; no Django, no pages.
"""
