"""What is said of people of a shop."""

from __future__ import annotations

SHOP: dict[str, str] = {
    "no_shop": "You do not belong to a shop yet. Ask its owner to add you.",
    "role_needed": "This needs the role {role}; yours is {yours}. Ask the shop's owner.",
    "name_letters": "Give a name of letters, digits, dash, dot or underscore.",
    "name_taken": "“{name}” is taken. Choose another name.",
    "nobody_by_number": "Nobody by that number works here.",
    "shop_needs_owner": "A shop needs an owner. Make somebody else owner first.",
    "sign_in.wait": "Too many wrong passwords for this name. Wait {minutes} minutes, then try again.",
    "sign_in.not_known": "Name and password do not belong together. Try again, or ask your shop's owner.",
}
