"""A browser for tests of pages: Debian's Chromium, without network, at a phone's size; tests skip where it is not."""

import json
import shutil
import tempfile
import unittest
from importlib.util import find_spec
from pathlib import Path
from typing import Any

PHONE = (390, 844)


def chromium() -> Any:
    """A driver of Chromium without network; raises SkipTest where there is none."""
    found, driver = shutil.which("chromium"), shutil.which("chromedriver")
    if not found or not driver:
        raise unittest.SkipTest("no Chromium with its driver")
    from selenium import webdriver

    options = webdriver.ChromeOptions()
    options.binary_location = found
    for word in (
        "headless=new", "no-sandbox", "disable-gpu", "disable-quic", "no-first-run", "disable-background-networking",
        "disable-component-update", "disable-sync", "autoplay-policy=no-user-gesture-required", "hide-scrollbars",
        f"user-data-dir={tempfile.mkdtemp()}",
    ):  # fmt: skip
        options.add_argument(f"--{word}")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL", "performance": "ALL"})
    browser = webdriver.Chrome(options=options, service=webdriver.ChromeService(driver))
    size = {"width": PHONE[0], "height": PHONE[1], "deviceScaleFactor": 2, "mobile": True}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    browser.execute_cdp_cmd("Network.enable", {})
    gone = {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0}
    browser.execute_cdp_cmd("Network.emulateNetworkConditions", gone)
    return browser


def asked_for(browser: Any) -> list[str]:
    """Every address that a page has asked for so far."""
    rows = (json.loads(row["message"])["message"] for row in browser.get_log("performance"))
    return [row["params"]["request"]["url"] for row in rows if row["method"] == "Network.requestWillBeSent"]


def axe(browser: Any) -> list[str]:
    """What axe-core finds wrong on the page that is shown, and where."""
    package = find_spec("axe_playwright_python")
    if package is None or package.origin is None:
        raise unittest.SkipTest("no axe-core")
    browser.execute_script((Path(package.origin).parent / "axe.min.js").read_text("utf-8"))
    found = browser.execute_async_script("axe.run().then(arguments[0])")
    return [f"{v['id']}: {node['target']}" for v in found["violations"] for node in v["nodes"]]
