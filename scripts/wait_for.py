"""Wait until the address given answers, at most half a minute; exit 1 if it does not."""

import sys
import time
from urllib.error import URLError
from urllib.request import urlopen

for _ in range(150):
    try:
        urlopen(sys.argv[1], timeout=5).close()
        sys.exit(0)
    except (URLError, ConnectionError, TimeoutError):
        time.sleep(0.2)
sys.exit(1)
