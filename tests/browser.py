"""Browsers for tests of pages: Debian's Chromium, without network, at a phone's size; WebKitGTK and Firefox ESR where
they are; tests skip where one is not."""

import contextlib
import json
import os
import shutil
import socket
import subprocess
import tempfile
import time
import unittest
from collections.abc import Mapping
from importlib.util import find_spec
from pathlib import Path
from typing import Any

from tests.support import PATIENCE_S

PHONE = (390, 844)


def chromium() -> Any:
    """A driver of Chromium without network, whose profile goes when it quits; raises SkipTest where there is none."""
    found, driver = shutil.which("chromium"), shutil.which("chromedriver")
    if not found or not driver:
        raise unittest.SkipTest("no Chromium with its driver")
    from selenium import webdriver

    profile = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
    options = webdriver.ChromeOptions()
    options.binary_location = found
    for word in (
        "headless=new", "no-sandbox", "disable-gpu", "disable-quic", "no-first-run", "disable-background-networking",
        "disable-component-update", "disable-sync", "autoplay-policy=no-user-gesture-required", "hide-scrollbars",
        f"user-data-dir={profile.name}",
    ):  # fmt: skip
        options.add_argument(f"--{word}")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL", "performance": "ALL"})
    browser = webdriver.Chrome(options=options, service=webdriver.ChromeService(driver))
    size = {"width": PHONE[0], "height": PHONE[1], "deviceScaleFactor": 2, "mobile": True}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    browser.execute_cdp_cmd("Network.enable", {})
    gone = {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0}
    browser.execute_cdp_cmd("Network.emulateNetworkConditions", gone)
    quits = browser.quit

    def quit_and_tidy() -> None:
        quits()
        profile.cleanup()

    browser.quit = quit_and_tidy
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


def webkit(display: str) -> Any:
    """A driver of WebKitGTK on a display; raises SkipTest where there is none."""
    places = sorted(Path("/usr/lib").glob("*/webkit2gtk-4*/MiniBrowser"))
    driver = shutil.which("WebKitWebDriver")
    if not places or not driver:
        raise unittest.SkipTest("no WebKitGTK with its driver")
    from selenium import webdriver
    from selenium.webdriver.webkitgtk.options import Options
    from selenium.webdriver.webkitgtk.service import Service

    options = Options()
    options.binary_location = str(places[-1])
    options.add_argument("--automation")
    return webdriver.WebKitGTK(options=options, service=Service(driver, env={**os.environ, "DISPLAY": display}))


"""So long a browser may take to answer where a machine has much else to do."""


class Firefox:
    """Firefox ESR without a screen, driven by its own protocol (Marionette 3): Debian has no driver for it.

    Messages go over a local socket as their length, a colon, and JSON: [0, number, command, values] there,
    [1, number, fault, result] back; commands are those of WebDriver (W3C).
    """

    def __init__(self, folder: Path, env: Mapping[str, str]) -> None:
        program = shutil.which("firefox-esr")
        if program is None:
            raise unittest.SkipTest("no Firefox ESR")
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        profile = folder / "firefox"
        profile.mkdir()
        prefs = {"marionette.port": port, "network.proxy.type": 1, "network.proxy.http": "127.0.0.1",
                 "network.proxy.http_port": 9, "media.autoplay.default": 0}  # fmt: skip
        lines = (f"user_pref({json.dumps(name)}, {json.dumps(value)});\n" for name, value in prefs.items())
        (profile / "user.js").write_text("".join(lines))
        self._process = subprocess.Popen(
            [program, "--marionette", "--headless", "--no-remote", "--profile", str(profile)],
            env={**env, "HOME": str(folder)}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        self._number, end = 0, time.monotonic() + PATIENCE_S
        while True:
            try:
                self._socket = socket.create_connection(("127.0.0.1", port), PATIENCE_S)
                break
            except OSError:
                if time.monotonic() > end:
                    self.quit()
                    raise
                time.sleep(0.1)
        self._message()
        self._ask("WebDriver:NewSession", capabilities={})

    def _message(self) -> Any:
        size = b""
        while not size.endswith(b":"):
            size += self._socket.recv(1)
        data = b""
        while len(data) < int(size[:-1]):
            data += self._socket.recv(int(size[:-1]) - len(data))
        return json.loads(data)

    def _ask(self, command: str, **values: Any) -> Any:
        self._number += 1
        said = json.dumps([0, self._number, command, values]).encode()
        self._socket.sendall(b"%d:%s" % (len(said), said))
        _, _, fault, result = self._message()
        if fault:
            raise AssertionError(fault["message"])
        return result

    def get(self, address: str) -> None:
        self._ask("WebDriver:Navigate", url=address)

    def execute_script(self, script: str, *words: Any) -> Any:
        return self._ask("WebDriver:ExecuteScript", script=script, args=list(words))["value"]

    def press(self, selector: str) -> None:
        """Press a button as a finger does."""
        found = self._ask("WebDriver:FindElement", using="css selector", value=selector)["value"]
        self._ask("WebDriver:ElementClick", id=next(iter(found.values())))

    def quit(self) -> None:
        with contextlib.suppress(AttributeError):
            self._socket.close()
        self._process.kill()
        self._process.wait(10)
