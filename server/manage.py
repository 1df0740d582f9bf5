#!/usr/bin/env python3
"""Django's command line for this project."""

import os
import sys
from pathlib import Path

from django.core.management import execute_from_command_line

# The engine lies beside the server.
sys.path.append(str(Path(__file__).resolve().parent.parent))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

if __name__ == "__main__":
    execute_from_command_line(sys.argv)
