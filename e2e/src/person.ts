import { By, Key, until, type Condition, type WebDriver, type WebElement } from 'selenium-webdriver';

/** Long enough for a busy machine; whoever waits goes on as soon as it is there. */
const PATIENCE_MS = 45_000;

/** An XPath string literal, whatever quotes the text holds. */
function literal(text: string): string {
  if (!text.includes('"')) return `"${text}"`;
  return `concat(${text
    .split('"')
    .map((part) => `"${part}"`)
    .join(`, '"', `)})`;
}

/** Whoever clicks does not wait longer than this for the rest of the page. */
const SETTLED_MS = 5000;

/** How often is looked whether it is there. */
const LOOK_MS = 25;

/** Someone at the screen: looks for what a person would see, waits for it, and uses mouse and keyboard. */
export class Person {
  constructor(
    readonly driver: WebDriver,
    readonly address: string,
  ) {}

  /** Waits for something, looking often. */
  private async wait<T>(condition: Condition<T> | (() => Promise<T>), message?: string): Promise<T> {
    return this.driver.wait(condition as Condition<T>, PATIENCE_MS, message, LOOK_MS);
  }

  /** The first element at a place, as soon as there is one. */
  private async find(locator: By, message?: string): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(locator), PATIENCE_MS, message, LOOK_MS);
  }

  async goTo(path: string): Promise<void> {
    await this.driver.get(this.address + path);
  }

  /** Waits for an element that can be seen, looking for it again when the page has just changed under it. */
  async see(selector: string): Promise<WebElement> {
    let seen: WebElement | undefined;
    const isSeen = async () => {
      const [found] = await this.driver.findElements(By.css(selector));
      seen = (await found?.isDisplayed().catch(() => false)) ? found : undefined;
      return seen !== undefined;
    };
    await this.wait(isSeen, `Nothing to be seen at ${selector}`);
    return seen as unknown as WebElement;
  }

  /** Waits until a text stands anywhere within an element, or within one of several: notices fade beside new ones. */
  async read(text: string, within = 'body'): Promise<void> {
    let last = '';
    const shows = async () => {
      try {
        const found = await this.driver.findElements(By.css(within));
        last = (await Promise.all(found.map((each) => each.getText()))).join('\n');
        return last.includes(text);
      } catch {
        return false;
      }
    };
    await this.wait(shows).catch(() => {
      throw new Error(`“${text}” does not stand in ${within}, which reads:\n${last.slice(0, 1500)}`);
    });
  }

  /** Waits until a text no longer stands within an element. */
  async readNoMore(text: string, within = 'body'): Promise<void> {
    const gone = async () => {
      const found = await this.driver.findElements(By.css(within));
      if (found.length === 0) return true;
      return !(await found[0].getText().catch(() => '')).includes(text);
    };
    await this.wait(gone, `“${text}” still stands in ${within}`);
  }

  /** A button or link by its text or its label. */
  async button(name: string, within = ''): Promise<WebElement> {
    const wanted = literal(name);
    const inside = within ? `//*[${within}]` : '';
    const path = `${inside}//*[self::button or self::a or @role="button" or @role="menuitem" or @role="radio"][normalize-space()=${wanted} or @aria-label=${wanted}]`;
    return this.find(By.xpath(path), `No button “${name}”`);
  }

  async click(name: string, within = ''): Promise<void> {
    await this.clickOn(async () => this.button(name, within));
  }

  async clickAt(selector: string): Promise<void> {
    await this.clickOn(async () => this.see(selector));
  }

  /** Waits until what is read first is there: what stands on the page may move until then. */
  private async settled(): Promise<void> {
    const isWhole = async () => (await this.count('.frame[aria-busy="true"], .skeleton')) === 0;
    await this.driver.wait(isWhole, SETTLED_MS, undefined, LOOK_MS).catch(() => undefined);
  }

  /** Clicks, looking for the element again when the page has just changed under it. */
  private async clickOn(find: () => Promise<WebElement>): Promise<void> {
    let trouble: unknown;
    await this.wait(async () => {
      try {
        await find();
        await this.settled();
        await (await find()).click();
        return true;
      } catch (error) {
        trouble = error;
        return false;
      }
    }).catch(() => {
      throw trouble;
    });
  }

  /** Presses keys, one after the other, wherever the focus is. */
  async press(...keys: string[]): Promise<void> {
    for (const key of keys) await this.driver.actions().sendKeys(key).perform();
  }

  async pressWith(modifier: string, key: string): Promise<void> {
    await this.driver.actions().keyDown(modifier).sendKeys(key).keyUp(modifier).perform();
  }

  /** Replaces what stands in a field. */
  async type(selector: string, text: string): Promise<void> {
    await this.until(`${selector} takes text`, async () => {
      await (await this.see(selector)).sendKeys(Key.chord(Key.CONTROL, 'a'), text);
      return true;
    });
  }

  async text(selector: string): Promise<string> {
    let text = '';
    // What is seen can be drawn anew before it is read.
    await this.until(`there is text at ${selector}`, async () => {
      text = await (await this.see(selector)).getText();
      return true;
    });
    return text;
  }

  async count(selector: string): Promise<number> {
    return (await this.driver.findElements(By.css(selector))).length;
  }

  /** Waits until a condition holds. */
  async until(what: string, holds: () => Promise<boolean>): Promise<void> {
    try {
      await this.wait(() => holds().catch(() => false), `It did not come about that ${what}`);
    } catch (error) {
      // Most often something else has the focus: it is named.
      const at = `${await this.focused('aria-label')} ${await this.focused('class')}`;
      throw new Error(`${String(error)}, the focus is at “${at.trim()}”`, { cause: error });
    }
  }

  /** Opens a part of the sentence, or the place to add to it, by what it says. */
  async clickToken(words: string): Promise<void> {
    const path = `//*[contains(@class, "sentence")]//button[contains(@class, "token")][normalize-space()=${literal(words)}]`;
    await this.clickOn(() => this.find(By.xpath(path), `No part of the sentence says “${words}”`));
  }

  /** A property of what has the focus; empty while the page is just changing under it. */
  async focused(of: 'text' | 'class' | 'id' | 'aria-label'): Promise<string> {
    try {
      const active = this.driver.switchTo().activeElement();
      return of === 'text' ? await active.getText() : ((await active.getAttribute(of)) ?? '');
    } catch {
      return '';
    }
  }

  /** Types into the open list of suggestions and takes the first. */
  async pick(words: string): Promise<void> {
    await this.see('.pick-field');
    await this.until(`the list to pick “${words}” from has the focus`, async () =>
      (await this.focused('class')).includes('pick-field'),
    );
    for (const letter of words) await this.press(letter);
    await this.see('.pick-option');
    await this.press(Key.ENTER);
  }

  /** The sentence as it is read. */
  async sentence(): Promise<string> {
    return (await this.text('.sentence')).replace(/\s+/g, ' ').replaceAll(' ,', ',');
  }

  async signInAs(name: string): Promise<void> {
    await this.goTo('/');
    const path = `//button[.//b[normalize-space()=${literal(name)}]]`;
    const button = await this.find(By.xpath(path), `Nobody called ${name} to sign in as`);
    await button.click();
    await this.see('nav[aria-label="Main"]');
  }

  /** Chooses from an open menu or list by the beginning of an entry's text. */
  async choose(name: string): Promise<void> {
    const path = `//*[@role="menuitem" or @role="option" or contains(@class, "ant-select-item-option")][starts-with(normalize-space(), ${literal(name)})]`;
    await this.clickOn(async () => {
      const found = await this.wait(
        until.elementsLocated(By.xpath(path)),
        `Nothing to choose called “${name}”`,
      );
      for (const element of found) if (await element.isDisplayed()) return element;
      return found[0];
    });
  }

  /** Hands a file to the page as if it had been chosen. */
  async giveFile(name: string, text: string, input = 'input[type=file]'): Promise<void> {
    await this.driver.executeScript(
      `const input = document.querySelector(arguments[2]);
       const files = new DataTransfer();
       files.items.add(new File([arguments[1]], arguments[0], { type: 'text/csv' }));
       input.files = files.files;
       input.dispatchEvent(new Event('change', { bubbles: true }));`,
      name,
      text,
      input,
    );
  }

  /** Drags one thing onto another with the mouse. */
  async drag(from: string, to: string): Promise<void> {
    const [start, end] = [await this.see(from), await this.see(to)];
    // Below the foot of a list it would be the foot that is taken.
    await this.driver.executeScript(`arguments[0].scrollIntoView({ block: 'center' })`, start);
    const mouse = this.driver.actions({ async: true });
    await mouse
      .move({ origin: start })
      .press()
      .move({ origin: start, x: 12, y: 4 })
      .move({ origin: end })
      .move({ origin: end, x: 2, y: 2 })
      .release()
      .perform();
  }

  async signOut(): Promise<void> {
    await this.clickAt('.bar-person');
    const path = '//*[@role="menuitem"][contains(normalize-space(), "Sign out")]';
    const item = await this.find(By.xpath(path));
    await this.wait(until.elementIsVisible(item));
    await item.click();
    await this.see('.sign-in-form');
  }
}
