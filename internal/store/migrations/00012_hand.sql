-- +goose Up

-- Whether somebody who practises cuts with the left hand: drawings are turned for them.
ALTER TABLE practisers ADD left_handed boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE practisers DROP left_handed;
