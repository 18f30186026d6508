"""Another program: writes at random moments to random files of a game, in place, by rename, by delete, and by handles held open.

Every version that it displaces itself goes to a graveyard first, so that what is missing in the end was lost by somebody else.
Usage: writer.py GAME GRAVEYARD SEED FILE...   Ends when its standard input closes; prints a line for each version it wrote.
"""
import os
import random
import select
import sys

game, graveyard, seed, files = sys.argv[1], sys.argv[2], int(sys.argv[3]), sys.argv[4:]
dice = random.Random(seed)
held = []
count = 0


def fresh(name):
    global count
    count += 1
    return f"version {count} of {name} {dice.random()}\n".encode()


def bury(data):
    with open(os.path.join(graveyard, f"{count}-{dice.random()}"), "wb") as out:
        out.write(data)


def through(handle, name):
    """Overwrites a file through a handle, wherever the file may be by now."""
    handle.seek(0)
    bury(handle.read())
    data = fresh(name)
    handle.seek(0)
    handle.write(data)
    handle.truncate()
    handle.flush()
    print(data.decode(), end="")


def displace(at):
    os.rename(at, os.path.join(graveyard, f"moved-{count}-{dice.random()}"))


while not select.select([sys.stdin], [], [], dice.random() * 0.006)[0]:
    name = dice.choice(files)
    at = os.path.join(game, name)
    way = dice.randrange(10)
    try:
        if way < 3:
            data = fresh(name)
            beside = os.path.join(graveyard, f"tmp-{count}")
            with open(beside, "wb") as out:
                out.write(data)
            if os.path.exists(at):
                displace(at)
            os.rename(beside, at)
            print(data.decode(), end="")
        elif way < 6:
            with open(at, "r+b") as handle:
                through(handle, name)
        elif way < 8 and len(held) < 6:
            held.append((open(at, "r+b"), name))
        elif way < 9 and held:
            handle, name = held.pop(dice.randrange(len(held)))
            through(handle, name)
            handle.close()
        elif way == 9 and dice.random() < 0.3:
            displace(at)
    except FileNotFoundError:
        pass
for handle, name in held:
    through(handle, name)
    handle.close()
