"""Tests of what every page is made with."""
